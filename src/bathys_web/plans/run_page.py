"""The log of a plan as its page shows it: what is due, what was measured, where it is going."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any

from bathys.evaluation import Evaluation
from bathys.fieldlog import (
    ENTRY_KINDS,
    DueJob,
    EntryKind,
    Expected,
    Measured,
    brought_forward,
    due_jobs,
    expected_of,
    held_against,
    measured_of,
    stock_of,
)
from bathys.units import System, fill_sentence, show, unit_of
from bathys_web.plans.log_news import news_of
from bathys_web.plans.models import LogEntry
from bathys_web.plans.season_words import season_words
from bathys_web.plans.water_chart import waters_of

__all__ = [
    "done_ago",
    "entry_words",
    "jobs_due",
    "measured_rows",
    "run_context",
    "shown_as",
]

_SHOWN = 30  # entries of the list
_SOON = 7.0  # jobs due within so long are listed [d]
_GROWS = ("strainer-", "clean-")  # jobs that take off what grows
_DAYS_BEFORE = 1.0  # they are due before what they are to prevent [d]


def run_context(
    found: Evaluation,
    entries: Sequence[LogEntry],
    now: datetime,
    units: System,
    harm: datetime | None = None,
) -> dict[str, Any]:
    """Everything that the page of the log shows.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    entries : sequence of LogEntry
        Its log, the latest first
    now : datetime
        When it is shown
    units : System
        The reader's units
    harm : datetime, optional
        When something goes wrong if nothing is cleaned

    Returns
    -------
    dict of str to object
        For the page: ``jobs`` that are due, the latest ``measures``, what is ``news``, ``waters``
        that were tested, fish of which plan and log differ as ``stock``, and the ``rows`` of the
        log
    """
    jobs = jobs_due(found, entries, now, harm)
    series = sorted(measured_rows(entries, found).items())
    return {
        "jobs": [_job(row, found, units) for row in jobs if row.left <= _SOON],
        "measures": [_measure(kind, part, rows, found, units) for (kind, part), rows in series],
        "news": [row.words for row in news_of(series, entries, found, now, units)],
        "waters": waters_of(found, entries, now),
        "rows": [
            _row(e, found, units, {row.job.key: row.job.title for row in jobs})
            for e in entries[:_SHOWN]
        ],
        "more": max(len(entries) - _SHOWN, 0),
        "season": season_words(entries, found, now, units),
        "stock": _stock_rows(entries, found, now, units),
    }


def _stock_rows(
    entries: Sequence[LogEntry], found: Evaluation, now: datetime, units: System
) -> list[dict[str, str]]:
    """Fish of which the log tells otherwise than the plan."""

    def words(count: int, each: float) -> str:
        return f"{count}, {show(each, 'mass', units)} each"

    return [
        {
            "name": found.plan.names[row.cohort],
            "planned": words(row.planned, row.planned_each),
            "now": words(row.count, row.each) if row.count else "none left",
        }
        for row in stock_of([e.logged(now) for e in entries], found)
        if row.differs
    ]


def jobs_due(
    found: Evaluation, entries: Sequence[LogEntry], now: datetime, harm: datetime | None = None
) -> tuple[DueJob, ...]:
    """The jobs of a plan by when they are due, by its log.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    entries : sequence of LogEntry
        Its log
    now : datetime
        From when it is counted
    harm : datetime, optional
        When something goes wrong if nothing is cleaned: cleaning is due before

    Returns
    -------
    tuple of DueJob
        What is longest overdue first
    """
    since = max((e.age(now) for e in entries), default=0.0)
    rows = due_jobs(found, done_ago(entries, now), since)
    if harm is None:
        return rows
    return brought_forward(rows, _GROWS, (harm - now).total_seconds() / 86400.0 - _DAYS_BEFORE)


def done_ago(entries: Iterable[LogEntry], now: datetime) -> dict[str, float]:
    """How long ago each job was last done, by its key [d].

    Parameters
    ----------
    entries : iterable of LogEntry
        The log
    now : datetime
        From when it is counted

    Returns
    -------
    dict of str to float
        Days, [d]
    """
    ago = dict[str, float]()
    for entry in entries:
        kind = ENTRY_KINDS.get(entry.kind)
        does = kind.job_at(entry.part) if kind is not None else ""
        key = str(entry.values["job"]) if entry.kind == "job" else does
        if key:
            days = entry.age(now)
            ago[key] = min(days, ago.get(key, days))
    return ago


def measured_rows(
    entries: Sequence[LogEntry], found: Evaluation
) -> dict[tuple[str, str], list[tuple[LogEntry, Measured]]]:
    """Measurements of a log by kind and part.

    Parameters
    ----------
    entries : sequence of LogEntry
        The log, the latest first
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    dict of (str, str) to list of (LogEntry, Measured)
        Each series in its order; without parts that are no longer in the plan
    """
    series = defaultdict[tuple[str, str], list[tuple[LogEntry, Measured]]](list)
    for entry in reversed(entries):
        measured = measured_of(entry.kind, entry.part, entry.values, found)
        if measured is not None and entry.part in found.plan.names:
            series[entry.kind, entry.part].append((entry, measured))
    return dict(series)


def _measure(
    kind: str,
    part: str,
    rows: list[tuple[LogEntry, Measured]],
    found: Evaluation,
    units: System,
) -> dict[str, Any]:
    entry, measured = rows[-1]
    expected, quantity = expected_of(kind, part, found), ENTRY_KINDS[kind].measures
    told = {
        "part": part,
        "kind": kind,
        "name": found.plan.names[part],
        "what": ENTRY_KINDS[kind].title,
        "at": entry.at,
        "measured": _with_doubt(measured, quantity, units),
        "count": len(rows),
    }
    if expected is None:
        return told
    z, verdict = held_against(measured, expected)
    return {
        **told,
        "expected": _with_doubt(expected, quantity, units),
        "verdict": verdict,
        "side": "" if verdict == "within" else "more" if z > 0.0 else "less",
    }


def _with_doubt(figure: Measured | Expected, quantity: str, units: System) -> str:
    shown = shown_as(quantity)
    return f"{show(figure.value, shown, units)} ± {show(figure.spread, shown, units)}"


def shown_as(quantity: str) -> str:
    """A time by the clock is told in minutes and seconds.

    Parameters
    ----------
    quantity : str
        What is measured

    Returns
    -------
    str
        The quantity that it is shown as
    """
    return "time" if quantity == "clock" else quantity


def _job(row: Any, found: Evaluation, units: System) -> dict[str, Any]:
    text = fill_sentence(row.job.text, row.job.figures, units, found.plan.names)
    days = round(row.left)
    when = "today" if days == 0 else f"in {days} days" if days > 0 else f"{-days} days over"
    return {
        "key": row.job.key,
        "title": row.job.title,
        "text": text,
        "when": when.replace("in 1 days", "tomorrow").replace(" 1 days over", " 1 day over"),
        "is_late": row.left < -0.5,
        "every": f"every {row.job.days} days" if row.job.days > 1 else "every day",
    }


def _row(
    entry: LogEntry, found: Evaluation, units: System, titles: Mapping[str, str]
) -> dict[str, Any]:
    kind = ENTRY_KINDS.get(entry.kind)
    words = entry_words(kind, entry.values, units) if kind is not None else ""
    return {
        "pk": entry.pk,
        "at": entry.at,
        "what": kind.title if kind is not None else entry.kind,
        "part": entry.part,
        "name": found.plan.names.get(entry.part, entry.part),
        "is_there": entry.part in found.plan.names,
        "words": titles.get(words, words) if entry.kind == "job" else words,
        "note": entry.note,
        "has_photo": getattr(entry, "has_photo", False),
    }


def entry_words(kind: EntryKind, values: Mapping[str, Any], units: System) -> str:
    """What an entry says, in words.

    Parameters
    ----------
    kind : EntryKind
        Its kind
    values : mapping of str to object
        By field, in SI
    units : System
        The reader's units

    Returns
    -------
    str
        Its figures with their names where there are several
    """
    said = []
    for asked in kind.fields:
        value = values.get(asked.name)
        if value is None:
            continue
        if not asked.quantity:
            text = str(value)
        elif isinstance(value, list):
            text = ", ".join(f"{v:.1f} {unit_of(asked.quantity, units)}" for v in value)
        else:
            text = show(float(value), asked.quantity, units)
            spread = values.get(f"{asked.name}_spread")
            if spread is not None:
                text += f" ± {show(float(spread), asked.quantity, units)}"
        said.append(f"{asked.label}: {text}" if len(kind.fields) > 1 else text)
    return "; ".join(said)
