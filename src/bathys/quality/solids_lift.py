"""How a pipe that draws from a tank's floor lifts waste."""

import math
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.physics import area_of
from bathys.plan.way_out import WayOut

__all__ = ["EASY_LIFT", "WASTE_FALLS", "SolidsLift", "solids_lifts"]

WASTE_FALLS = 0.03
"""How fast fresh waste falls, in the middle of 15 to 45 mm/s (memory) [m/s]."""

EASY_LIFT = 3.0
"""How many times as fast as waste falls water is to rise (common practice) [-]."""


@dataclass(frozen=True, slots=True)
class SolidsLift:
    """A way out that draws low and lifts waste.

    Attributes
    ----------
    outlet : WayOut
        The part: a lift, or a standpipe in a sleeve
    run : str
        Id of the run it leads into
    flow : float
        What it takes, [m³/s]
    speed : float
        Of the water that rises in it, [m/s]
    ratio : float
        That speed over the speed at which waste falls, [-]
    gap : float
        Between its mouth and the floor, [m]
    gap_speed : float or None
        Of the water through the gap, [m/s]; none where the gap is wider than the pipe
    easy : float
        Inside width that would lift it easily, [m]
    """

    outlet: WayOut
    run: str
    flow: float
    speed: float
    ratio: float
    gap: float
    gap_speed: float | None
    easy: float


def solids_lifts(found: Evaluation) -> tuple[SolidsLift, ...]:
    """Every way out of a fish tank that draws from the lower half of its water.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of SolidsLift
        In the plan's order
    """
    lifts = (_lift(found, outlet) for outlet in found.plan.outlets)
    return tuple(lift for lift in lifts if lift is not None)


def _lift(found: Evaluation, outlet: WayOut) -> SolidsLift | None:
    plan = found.plan
    run, vessel, widest = plan.run_of(outlet), plan.vessel(outlet.stands_in), outlet.widest
    draws_low = outlet.takes_from < 0.5 * outlet.spills_from
    if run is None or widest is None or not vessel.use.keeps_fish or not draws_low:
        return None
    flow = found.runs[run.id].flow
    # In a sleeve, water rises in the ring around the standpipe.
    inner = outlet.pipe.outside if widest is not outlet.pipe and outlet.pipe else 0.0
    speed = flow / max(area_of(widest.inside) - area_of(inner), 1e-9)
    gap, bore = outlet.takes_from, widest.inside
    under = math.pi * bore * gap if 0.0 < gap < 0.25 * bore else 0.0
    easy = math.sqrt(4.0 / math.pi * flow / (EASY_LIFT * WASTE_FALLS) + inner**2)
    return SolidsLift(
        outlet,
        run.id,
        flow,
        speed,
        speed / WASTE_FALLS,
        gap,
        flow / under if under > 0.0 else None,
        easy,
    )
