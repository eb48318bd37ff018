"""Readings that a plan is fitted to, out of what stands in its log."""

import math
from collections import defaultdict
from collections.abc import Iterable

from bathys.evaluation import Evaluation
from bathys.fieldlog import Logged, measured_of
from bathys.refit.measures import MEASURES, Reading

__all__ = ["readings_of_log"]

_TOGETHER = 14.0  # days before the latest of a kind and part that count with it
_MINUTES = 10.0  # spread of a siphon's run noted by the clock (assumed) [s]


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
        How long ago pipes, strainers or siphons were last cleaned, [d]: what is older is left out

    Returns
    -------
    list of Reading
        By kind and part
    """
    taken = defaultdict[tuple[str, str], list[tuple[float, float, float]]](list)
    for entry in entries:
        if entry.age > since:
            continue
        for kind, value, spread in _figures(entry, found):
            taken[kind, entry.part].append((entry.age, value, spread))
    readings = []
    for (kind, part), rows in sorted(taken.items()):
        latest = min(age for age, _, _ in rows)
        near = [(value, spread) for age, value, spread in rows if age <= latest + _TOGETHER]
        mean = math.fsum(value for value, _ in near) / len(near)
        spread = math.sqrt(math.fsum(s * s for _, s in near)) / len(near)
        readings.append(Reading(kind, part, mean, spread))
    return readings


def _figures(entry: Logged, found: Evaluation) -> Iterable[tuple[str, float, float]]:
    if entry.kind in MEASURES:
        measured = measured_of(entry.kind, entry.part, entry.values, found)
        if measured is not None:
            yield entry.kind, measured.value, measured.spread
    if entry.kind == "cycle" and "runs" in entry.values:
        yield "drain", float(entry.values["runs"]), _MINUTES
