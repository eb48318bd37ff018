"""What is measured on the first day, and what should be read."""

from dataclasses import dataclass
from typing import Literal

from bathys.evaluation import CYCLE_DOUBT, Evaluation

__all__ = ["BUCKET", "Reading", "readings_of"]

BUCKET = 0.01
"""What is filled and timed [m³]."""

_DOUBT = 0.15  # of a flow told from labels and typed lengths (assumed) [-]
_LEVEL_DOUBT = 0.01  # of a level [m]
_STILL = 1e-7  # [m³/s]
_FAST = 2.0  # a bucket that fills in less is not to be timed by hand [s]

What = Literal["bucket", "cycle", "low", "high", "cut", "watts"]


@dataclass(frozen=True, slots=True)
class Reading:
    """One thing to measure.

    Attributes
    ----------
    what : What
        What it is
    part : str
        Id of the part it is measured at
    expected : float
        What should be read: s of a bucket or a cycle, m over the floor of a level, W
    low, high : float
        From and to which it is as planned, [as above]
    """

    what: What
    part: str
    expected: float
    low: float
    high: float


def readings_of(found: Evaluation) -> tuple[Reading, ...]:
    """Readings of the first day, with what the plan expects.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Reading
        Buckets at the ends of pumped runs, watts of pumps, cycles of siphon beds, and levels of
        every vessel with a pump or fish
    """
    rows = []
    for duty in found.duties.values():
        rows.append(_within("watts", duty.pump.id, duty.power, _DOUBT))
        for delivery in duty.deliveries:
            if delivery.flow > _STILL and BUCKET / delivery.flow >= _FAST:
                rows.append(_within("bucket", delivery.run, BUCKET / delivery.flow, _DOUBT))
    for bed in found.beds:
        fill, drain = bed.cycle.fill_time, bed.cycle.drain_time
        if fill is not None and drain is not None and not bed.fed_by:
            rows.append(_within("cycle", bed.bed.id, fill + drain, CYCLE_DOUBT))
    for result in found.vessels.values():
        vessel, floor = result.vessel, result.vessel.floor_height
        if not (vessel.use.keeps_fish or any(p.stands_in == vessel.id for p in found.plan.pumps)):
            continue
        levels: tuple[tuple[What, float], ...] = (
            ("low", result.levels.low),
            ("high", result.levels.high),
            ("cut", result.levels.at_rest),
        )
        rows += [
            Reading(what, vessel.id, z - floor, z - floor - _LEVEL_DOUBT, z - floor + _LEVEL_DOUBT)
            for what, z in levels
        ]
    return tuple(rows)


def _within(what: What, part: str, expected: float, doubt: float) -> Reading:
    return Reading(what, part, expected, expected * (1.0 - doubt), expected * (1.0 + doubt))
