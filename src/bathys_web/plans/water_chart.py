"""Water tests of a vessel as a chart, and how far its bacteria have come."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from bathys.evaluation import Evaluation
from bathys.fieldlog import Cycled, CycledStage, WaterTest, cycled_by_tests
from bathys.quality.cycling import CLEAR, cycled
from bathys.units import System, show
from bathys_web.plans.benches.plots import Curve, Mark, Plot, Spot
from bathys_web.plans.models import LogEntry

__all__ = ["water_chart_of", "waters_of"]

_FEWEST = 2  # tests that make a chart
_TESTED = (("ammonia", "mark"), ("nitrite", "plum"), ("nitrate", "olive"))
_STAGES: dict[CycledStage, str] = {
    "begun": "Nothing has been turned over yet. Give ammonia little by little, or few fish little "
    "feed, and test every second day.",
    "ammonia": "Ammonia is not turned over yet. Feed nothing until it falls.",
    "nitrite": "Nitrite is not turned over yet. Feed nothing until it falls; with fish in it, "
    "change a fifth of the water.",
    "nearly": "Ammonia and nitrite are low. Test again tomorrow: if they still are, fish may come.",
    "cycled": "Ammonia and nitrite stay low: bacteria turn over all that is made. Add fish and "
    "feed little by little.",
    "upset": "It was low before and is high again. Feed nothing, change a fifth of the water, and "
    "look for dead fish and rotting feed.",
}


def waters_of(
    found: Evaluation, entries: Sequence[LogEntry], now: datetime
) -> list[dict[str, Any]]:
    """Vessels whose water was tested more than once.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    entries : sequence of LogEntry
        Its log
    now : datetime
        From when days are counted

    Returns
    -------
    list of dict of str to object
        ``part``, ``name``, how many tests, and ``words`` on how far its water has come
    """
    tested = dict.fromkeys(e.part for e in entries if e.kind == "water")
    rows = [(part, _tests(entries, part, now)) for part in tested if part in found.plan.names]
    return [
        {
            "part": part,
            "name": found.plan.names[part],
            "count": len(tests),
            "words": _STAGES[cycled_by_tests(tests).stage],
        }
        for part, tests in rows
        if len(tests) >= _FEWEST
    ]


def _tests(entries: Sequence[LogEntry], part: str, now: datetime) -> list[WaterTest]:
    """Of one vessel, in their order; of today the day is 0."""
    own = (e for e in reversed(entries) if e.kind == "water" and e.part == part)
    tests = [
        WaterTest(-e.age(now), *(_number(e.values.get(name)) for name, _ in _TESTED)) for e in own
    ]
    return sorted(tests, key=lambda test: test.day)


def _number(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) else None


def water_chart_of(
    found: Evaluation, entries: Sequence[LogEntry], part: str, now: datetime, units: System
) -> dict[str, Any] | None:
    """Everything that the page of a vessel's water tests shows.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    entries : sequence of LogEntry
        Its log, the latest first
    part : str
        Id of the vessel
    now : datetime
        When it is shown
    units : System
        The reader's units

    Returns
    -------
    dict of str to object or None
        ``plots`` as JSON, how far the water has come, and ``rows``, the latest first; none where
        its water was not tested twice
    """
    tests = _tests(entries, part, now)
    if part not in found.plan.names or len(tests) < _FEWEST:
        return None
    so_far, warm = cycled_by_tests(tests), found.water.temperature
    usual = cycled(warm)
    own = [e for e in entries if e.kind == "water" and e.part == part]
    return {
        "name": found.plan.names[part],
        "part": part,
        "stage": so_far.stage,
        "words": _STAGES[so_far.stage],
        "since": _since(so_far, tests),
        "usual": _usual(usual.soonest, usual.latest),
        "warm": show(warm, "temperature", units),
        "plots": [
            plot.as_json(units)
            for names in (("ammonia", "nitrite"), ("nitrate",))
            if (plot := _plot(tests, names)) is not None
        ],
        "rows": [
            {"at": e.at, "note": e.note} | {name: _shown(e, name, units) for name, _ in _TESTED}
            for e in own
        ],
    }


def _plot(tests: Sequence[WaterTest], names: Sequence[str]) -> Plot | None:
    looks = dict(_TESTED)
    curves, spots = [], []
    for name in names:
        told = [(t.day, v) for t in tests if (v := getattr(t, name)) is not None]
        if not told:
            continue
        days, values = [day for day, _ in told], [value for _, value in told]
        curves.append(Curve(name, days, values, looks[name]))
        spots += [Spot(day, value, "", looks[name]) for day, value in told]
    if not curves:
        return None
    return Plot(
        " and ".join(names).capitalize(),
        ("days; today is 0", "ratio"),
        ("nitrogen", "dissolved"),
        tuple(curves),
        (Mark(CLEAR, "fish may come below"),) if "nitrite" in names else (),
        tuple(spots),
    )


def _since(so_far: Cycled, tests: Sequence[WaterTest]) -> str:
    if so_far.since is None:
        return ""
    days = round(so_far.since - tests[0].day)
    return f"since the test on day {days} after the first" if days else "since the first test"


def _usual(soonest: float | None, latest: float | None) -> str:
    low = f"{soonest:.0f}" if soonest is not None else "90"
    return f"{low} to {latest:.0f} days" if latest is not None else f"{low} days or more"


def _shown(entry: LogEntry, name: str, units: System) -> str:
    value = _number(entry.values.get(name))
    return "–" if value is None else show(value, "dissolved", units)
