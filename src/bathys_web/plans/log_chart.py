"""A series of the log as a chart: measured, smoothed, expected, and what was done meanwhile."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from bathys.evaluation import Evaluation
from bathys.fieldlog import ENTRY_KINDS, ewma_news, expected_of
from bathys.units import System, show
from bathys_web.plans.benches.plots import Curve, Mark, Plot, Spot
from bathys_web.plans.log_news import CLEANED
from bathys_web.plans.models import LogEntry
from bathys_web.plans.run_page import measured_rows, shown_as

__all__ = ["log_chart_of"]

_EVENTS = ("job", "addition", "top_up")
_MOST_EVENTS = 12
_CLEANED, _PUT_IN = "cleaned", "something put in"


def log_chart_of(
    found: Evaluation,
    entries: Sequence[LogEntry],
    about: tuple[str, str],
    now: datetime,
    units: System,
) -> dict[str, Any] | None:
    """Everything that the page of a series shows.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    entries : sequence of LogEntry
        Its log, the latest first
    about : (str, str)
        Key of the kind of entry, and id of the part
    now : datetime
        When it is shown
    units : System
        The reader's units

    Returns
    -------
    dict of str to object or None
        ``plot`` as JSON and ``rows``, the latest first; none where there is no such series
    """
    kind, part = about
    series = measured_rows(entries, found).get(about, [])
    if not series:
        return None
    quantity = ENTRY_KINDS[kind].measures
    days = [-e.age(now) for e, _ in series]
    values = [m.value for _, m in series]
    expected = expected_of(kind, part, found)
    curves, marks = [Curve("measured", days, values, "deep")], []
    if expected is not None:
        spread = max(expected.spread, series[-1][1].spread)
        smooth = ewma_news(values, expected.value, spread)
        curves.append(Curve("smoothed", days, [p.value for p in smooth], "mark"))
        curves.append(Curve("too little", days, [p.low for p in smooth], "soft", is_dashed=True))
        curves.append(Curve("too much", days, [p.high for p in smooth], "soft", is_dashed=True))
        marks.append(Mark(expected.value, "the plan expects"))
    events = _events([e for e in entries if days[0] - 1.0 <= -e.age(now)])
    foot = min(values)
    # Where there is no room for all words, the last of these keep theirs.
    spots = [Spot(-e.age(now), foot, _event_words(e), "clay") for e in reversed(events)]
    plot = Plot(
        f"{ENTRY_KINDS[kind].title}, {found.plan.names[part]}",
        ("days; today is 0", "ratio"),
        ("measured", quantity),
        tuple(curves),
        tuple(marks),
        (*(Spot(d, v, "", "deep") for d, v in zip(days, values, strict=True)), *spots),
    )
    shown = shown_as(quantity)
    return {
        "title": ENTRY_KINDS[kind].title,
        "name": found.plan.names[part],
        "part": part,
        "plot": plot.as_json(units),
        "expected": show(expected.value, shown, units) if expected is not None else "",
        "rows": [
            {
                "at": entry.at,
                "value": f"{show(m.value, shown, units)} ± {show(m.spread, shown, units)}",
                "note": entry.note,
            }
            for entry, m in reversed(series)
        ],
        "events": [
            {"at": e.at, "words": _event_words(e)}
            for e in sorted(events, key=lambda e: e.at, reverse=True)
        ],
    }


def _events(entries: Sequence[LogEntry]) -> list[LogEntry]:
    """What was done meanwhile: cleanings before what was put in, that before all else, and of each
    the latest first; so many as a chart has room for."""
    ranks = {word: rank for rank, word in enumerate((_CLEANED, _PUT_IN))}
    done = [e for e in entries if e.kind in _EVENTS]
    done.sort(key=lambda e: ranks.get(_event_words(e), len(ranks)))
    return done[:_MOST_EVENTS]


def _event_words(entry: LogEntry) -> str:
    if entry.kind == "job":
        return _CLEANED if str(entry.values.get("job", "")).startswith(CLEANED) else "job done"
    return _PUT_IN if entry.kind == "addition" else "topped up"
