"""A plan fitted to its log: as plain data for the queue, and as the page shows it."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

from bathys.edits import Edit, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.fieldlog import ENTRY_KINDS
from bathys.figures import list_headlines
from bathys.refit import (
    FARTHEST,
    LEAST_DAYS,
    MEASURES,
    Fit,
    Fitted,
    Lasting,
    Odds,
    Reading,
    as_built,
    asked_figures,
    next_readings,
    readings_of_log,
)
from bathys.units import System, fill_sentence, show
from bathys_web.plans.log_news import CLEANED
from bathys_web.plans.models import LogEntry
from bathys_web.plans.run_page import shown_as

_TITLES = {
    "drain": "Siphon, start to stop",
    "dries": "Topped up, a day",
    "ammonia": "Ammonia, as nitrogen",
}
"""Of readings that are part of another entry, or of several."""

__all__ = ["as_built_data", "as_built_edits", "as_built_told", "log_readings"]


def log_readings(
    entries: Iterable[LogEntry], found: Evaluation, now: datetime
) -> tuple[list[Reading], float]:
    """What of a plan's log it can be fitted to.

    Parameters
    ----------
    entries : iterable of LogEntry
        Its log
    found : Evaluation
        The numbers of the plan
    now : datetime
        From when ages are counted

    Returns
    -------
    (list of Reading, float)
        Readings since the last cleaning, and how long pipes have been in use since, [d]
    """
    logged, cleaned, first = [], [], 0.0
    for entry in entries:
        age = max(entry.age(now), 0.0)
        first = max(first, age)
        if entry.kind == "job" and str(entry.values.get("job", "")).startswith(CLEANED):
            cleaned.append(age)
        logged.append(entry.logged(now))
    since = min(cleaned, default=first)
    return readings_of_log(logged, found, since), float(max(round(since), 1))


def as_built_data(
    fit: Fit, odds: Sequence[Odds], lasting: Sequence[Lasting], days: float
) -> dict[str, Any]:
    """A fit as plain data.

    Parameters
    ----------
    fit : Fit
        The fit
    odds : sequence of Odds
        How surely things go well
    lasting : sequence of Lasting
        How long they still do if nothing is cleaned
    days : float
        How long the layout has run since its pipes were clean, [d]

    Returns
    -------
    dict of str to object
        Figures in SI: ``odds``, ``lasting``, ``days``, ``readings``, ``parameters``, which of
        these hang ``together``, ``advice`` by the figure asked about, ``asked``, and the ``edits``
        that make the plan as built
    """
    told = [f for f in fit.fitted if f.is_told]
    edits = as_built([f.parameter for f in told], [f.value for f in told], [f.spread for f in told])
    return {
        "odds": [(o.label, o.before, o.after) for o in odds],
        "days": days,
        "lasting": [(r.label, r.likely, r.soon, r.late) for r in lasting],
        "readings": [
            {
                "kind": r.reading.kind,
                "part": r.reading.part,
                "read": r.reading.value,
                "spread": r.reading.spread,
                "planned": r.planned,
                "fitted": r.fitted,
                "is_odd": r.is_odd,
            }
            for r in fit.readings
        ],
        "parameters": [_parameter(f) for f in fit.fitted],
        "together": [[p.label for p in group] for group in fit.together],
        "asked": [(a.key, a.label) for a in fit.asked],
        "advice": {
            key: [(a.measure.kind, a.part, a.expected, a.narrows) for a in next_readings(fit, key)]
            for key in ("", *(a.key for a in fit.asked))
        },
        "edits": [(edit.path, edit.value) for edit in edits],
    }


def _parameter(fitted: Fitted) -> dict[str, Any]:
    about = fitted.parameter
    return {
        "label": about.label,
        "quantity": about.quantity,
        "part": about.part,
        "before": about.median,
        "value": fitted.value,
        "low": fitted.low,
        "high": fitted.high,
        "narrowed": fitted.narrowed,
        "is_told": fitted.is_told,
    }


def as_built_edits(data: Mapping[str, Any]) -> tuple[Edit, ...]:
    """What makes the plan as it was built.

    Parameters
    ----------
    data : mapping of str to object
        From :func:`as_built_data`

    Returns
    -------
    tuple of Edit
        Of what the readings told something of
    """
    return tuple(Edit(path, value) for path, value in data["edits"])


def as_built_told(
    data: Mapping[str, Any], found: Evaluation, asked: str, units: System, now: datetime
) -> dict[str, Any]:
    """A fit as its page shows it.

    Parameters
    ----------
    data : mapping of str to object
        From :func:`as_built_data`
    found : Evaluation
        The numbers of the plan
    asked : str
        Key of the figure whose doubt matters; empty for all
    units : System
        The reader's units
    now : datetime
        From when days ahead are counted

    Returns
    -------
    dict of str to object
        ``rows`` of readings, ``told`` and ``untold`` parameters, which of these hang ``together``,
        ``figures`` and ``odds`` as planned and as built, what is ``lasting``, what can be ``asked``
        about and the ``advice`` on what to read next
    """
    names = found.plan.names
    built = evaluate(apply_edits(found.plan, as_built_edits(data)))
    return {
        "rows": [_reading_row(row, names, units) for row in data["readings"]],
        "told": [_parameter_row(p, names, units) for p in data["parameters"] if p["is_told"]],
        "untold": [_words(p["label"], names) for p in data["parameters"] if not p["is_told"]],
        "together": [[_words(label, names) for label in group] for group in data["together"]],
        "figures": _figures(found, built, units),
        "odds": [
            {"label": _words(label, names), "before": _of_100(before), "after": _of_100(after)}
            for label, before, after in data["odds"]
        ],
        "lasting": [_lasting_row(row, names, now) for row in data.get("lasting", ())],
        "farthest": round(FARTHEST),
        "least_days": None if data.get("days", 0.0) >= LEAST_DAYS else round(LEAST_DAYS),
        "asked": [
            {"key": key, "label": _words(label, names), "is_chosen": key == asked}
            for key, label in data["asked"]
        ],
        "advice": [_advice_row(row, names, units) for row in data["advice"].get(asked, ())],
    }


def _lasting_row(row: Sequence[Any], names: Mapping[str, str], now: datetime) -> dict[str, Any]:
    label, likely, soon, late = row
    return {
        "label": _words(label, names),
        "until": None if likely is None else now + timedelta(days=likely),
        "days": None if likely is None else round(likely),
        "soon": None if soon is None else round(soon),
        "late": None if late is None else round(late),
    }


def _of_100(share: float) -> str:
    """A share of layouts in words; what a hundred of them do not tell is not told."""
    count = round(100.0 * share)
    if share < 0.015:
        return "hardly ever"
    return "nearly always" if share > 0.985 else f"{count} in 100"


def _advice_row(row: Sequence[Any], names: Mapping[str, str], units: System) -> dict[str, Any]:
    kind, part, expected, narrows = row
    measure = MEASURES[kind]
    return {
        "words": fill_sentence(measure.advice, {"part": names.get(part, part)}, units, {}),
        "expected": show(expected, shown_as(measure.quantity), units),
        "narrows": show(narrows, "percent", units),
        "kind": kind if kind in ENTRY_KINDS else "cycle",
        "part": part,
    }


def _reading_row(row: Mapping[str, Any], names: Mapping[str, str], units: System) -> dict[str, Any]:
    kind = row["kind"]
    quantity = shown_as(MEASURES[kind].quantity)
    return {
        "what": _TITLES[kind] if kind in _TITLES else ENTRY_KINDS[kind].title,
        "name": names.get(row["part"], row["part"]) or "all vessels",
        "read": f"{show(row['read'], quantity, units)} ± {show(row['spread'], quantity, units)}",
        "planned": _shown(row["planned"], quantity, units),
        "fitted": _shown(row["fitted"], quantity, units),
        "is_odd": row["is_odd"],
    }


def _shown(value: float | None, quantity: str, units: System) -> str:
    return "–" if value is None else show(value, quantity, units)


def _words(label: str, names: Mapping[str, str]) -> str:
    return fill_sentence(label, {}, "metric", names)


def _parameter_row(
    row: Mapping[str, Any], names: Mapping[str, str], units: System
) -> dict[str, Any]:
    quantity = row["quantity"]
    return {
        "label": _words(row["label"], names),
        "before": show(row["before"], quantity, units),
        "value": show(row["value"], quantity, units),
        "band": f"{show(row['low'], quantity, units)} to {show(row['high'], quantity, units)}",
        "narrowed": show(1.0 - row["narrowed"], "percent", units),
    }


def _figures(found: Evaluation, built: Evaluation, units: System) -> list[dict[str, str]]:
    """What the head of the plan's page says, and reserves of siphons, planned and as built."""
    later = {f.key: f.value for f in list_headlines(built)}
    rows = [
        {"label": f.label, "planned": f.value, "built": later.get(f.key), "quantity": f.quantity}
        for f in list_headlines(found)
    ]
    after = {a.key: a.value for a in asked_figures(built)}
    rows += [
        {"label": a.label, "planned": a.value, "built": after.get(a.key), "quantity": a.quantity}
        for a in asked_figures(found)
        if a.key.startswith("reserve.")
    ]
    return [
        {
            "label": _words(str(row["label"]), found.plan.names),
            "planned": _shown(_number(row["planned"]), str(row["quantity"]), units),
            "built": _shown(_number(row["built"]), str(row["quantity"]), units),
        }
        for row in rows
        if row["planned"] is not None or row["built"] is not None
    ]


def _number(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) else None
