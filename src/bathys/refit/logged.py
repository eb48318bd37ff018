"""Readings that a plan is fitted to, out of what stands in its log."""

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence

from bathys.evaluation import Evaluation
from bathys.fieldlog import Logged, WaterTest, cycled_by_tests, measured_of
from bathys.fieldlog.logged import total_of
from bathys.quality.stocking import stock_of
from bathys.refit.measures import MEASURES, Reading

__all__ = ["readings_of_log"]

_TOGETHER = 14.0  # days before the latest of a kind and part that count with it
_MINUTES = 10.0  # spread of a siphon's run noted by the clock (assumed) [s]
_FORGOTTEN = 60.0  # how old a reading may be [d]
_FEWEST, _LEAST_DAYS = 3, 3.0  # top-ups that tell what dries off, and days they lie apart
_GAUGE = 0.15  # spread of rain by a gauge beside what falls into vessels (assumed) [-]
_TOPPED = 0.1  # of the water that is topped up, by marks on a can (assumed) [-]
_KIT = 0.1  # of a test for ammonia (assumed) [g/m³]
_LEAST_FED = 0.02  # of the plan's feed [-]
_COLOUR = 0.2  # and of what it shows, by the eye (assumed) [-]


def readings_of_log(
    entries: Iterable[Logged], found: Evaluation, since: float = math.inf
) -> list[Reading]:
    """The latest readings of each kind and part, those of two weeks as their mean.

    Parameters
    ----------
    entries : iterable of Logged
        The log
    found : Evaluation
        The numbers of the plan
    since : float
        How long ago pipes, strainers or siphons were last cleaned, [d]: older flows are left out

    Returns
    -------
    list of Reading
        By kind and part, none older than 60 days
    """
    logged = [entry for entry in entries if entry.age <= _FORGOTTEN]
    taken = defaultdict[tuple[str, str], list[tuple[float, float, float]]](list)
    for entry in logged:
        if entry.age <= since:
            for kind, value, spread in _figures(entry, found):
                taken[kind, entry.part].append((entry.age, value, spread))
    for entry in _tests_of_bacteria(logged):
        value = float(entry.values["ammonia"])
        doubt = float(entry.values.get("ammonia_spread", 0.0))
        spread = math.hypot(_KIT, _COLOUR * value, doubt)
        taken["ammonia", entry.part].append((entry.age, value, spread))
    fed = _fed(logged, found) if any(kind == "ammonia" for kind, _ in taken) else 1.0
    readings = list(_topped_up(logged, found))
    for (kind, part), rows in sorted(taken.items()):
        latest = min(age for age, _, _ in rows)
        near = [(value, spread) for age, value, spread in rows if age <= latest + _TOGETHER]
        mean = math.fsum(value for value, _ in near) / len(near)
        spread = math.sqrt(math.fsum(s * s for _, s in near)) / len(near)
        readings.append(Reading(kind, part, mean, spread, fed if kind == "ammonia" else 1.0))
    return readings


def _figures(entry: Logged, found: Evaluation) -> Iterator[tuple[str, float, float]]:
    if entry.kind in MEASURES:
        measured = measured_of(entry.kind, entry.part, entry.values, found)
        if measured is not None:
            yield entry.kind, measured.value, measured.spread
    if entry.kind == "cycle" and "runs" in entry.values:
        yield "drain", float(entry.values["runs"]), _MINUTES


def _topped_up(logged: Sequence[Logged], found: Evaluation) -> Iterator[Reading]:
    """What dries off in a day [m³]: each top-up replaces what went since the one before.

    Where water comes by itself, its amount is in no log, and nothing is told; nor where rain falls
    and none was entered."""
    rows = sorted((e for e in logged if e.kind == "top_up"), key=lambda e: -e.age)
    if found.plan.top_ups or len(rows) < _FEWEST:
        return
    first, last = rows[0].age, rows[-1].age
    if first - last < _LEAST_DAYS:
        return
    let_out = [e for e in logged if e.kind == "purge" and last <= e.age < first]
    each = total_of(rows[1:], "volume") / (len(rows) - 1)
    rain = [e for e in logged if e.kind == "rain" and last <= e.age < first]
    if found.plan.site.is_rained_on and not rain:
        return
    fell = total_of(rain, "depth") * math.fsum(v.catches_rain for v in found.plan.vessels)
    dried = total_of(rows[1:], "volume") + fell - total_of(let_out, "volume")
    if dried > 0.0:
        # The last one may have come half a turn too early or too late.
        spread = math.hypot(_TOPPED * dried, 0.5 * each, _GAUGE * fell) / (first - last)
        yield Reading("dries", "", dried / (first - last), spread)


def _fed(logged: Sequence[Logged], found: Evaluation) -> float:
    """Share of the plan's feed that was given of late [-]; all of it where the log tells none."""
    given = [e for e in logged if e.kind == "feed" and e.age <= _TOGETHER]
    planned = sum(tank.feed for tank in stock_of(found).values()) / 1000.0
    if not given or planned <= 0.0:
        return 1.0
    days = max(*(round(e.age) for e in given), 1)
    return max(total_of(given, "mass") / days / planned, _LEAST_FED)


def _tests_of_bacteria(logged: Sequence[Logged]) -> Sequence[Logged]:
    """Tests for ammonia since the bacteria turned all of it over for the first time: before, they
    tell how many there are and not how fast they work."""
    rows = sorted((e for e in logged if e.kind == "water"), key=lambda e: -e.age)
    tests = [
        WaterTest(-e.age, *(e.values.get(n) for n in ("ammonia", "nitrite", "nitrate")))
        for e in rows
    ]
    for count in range(1, len(tests) + 1):
        if cycled_by_tests(tests[:count]).stage == "cycled":
            return [e for e in rows[count - 1 :] if "ammonia" in e.values]
    return ()
