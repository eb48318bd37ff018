"""Where a vessel would save the most pipe."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from shapely import affinity

from bathys.ground.placing import Placed, placed, site_of
from bathys.ground.routes import routes_of
from bathys.plan.model import Plan

__all__ = ["BetterPlace", "best_place"]

_STEP = 0.25  # between places that are tried [m]
_MOST = 900  # of them
_CLEAR = 0.1  # of other vessels [m]
_WORTH = 0.5  # pipe that is worth a move [m]


@dataclass(frozen=True, slots=True)
class BetterPlace:
    """A place that saves pipe.

    Attributes
    ----------
    vessel : str
        Id of the vessel
    x, y : float
        Where its middle would stand, [m]
    saved : float
        Pipe along the level, [m]
    """

    vessel: str
    x: float
    y: float
    saved: float


def best_place(plan: Plan, vessel: str) -> BetterPlace | None:
    """Where a vessel would stand clear of all others with the least pipe.

    Parameters
    ----------
    plan : Plan
        The plan
    vessel : str
        Id of the vessel

    Returns
    -------
    BetterPlace or None
        None if no place saves half a metre; runs with corners of their own count as they would
        lie with these
    """
    places = placed(plan)
    own = places[vessel]
    _, site = site_of(plan, places)
    joined = [r for r in plan.runs if vessel in (plan.owner_of(r.start), plan.owner_of(r.end))]
    if not joined or own.vessel.within is not None:
        return None
    keep = {r.id for r in joined} | _beyond_joints(plan, {r.id for r in joined})
    small = plan.model_copy(update={"runs": tuple(r for r in plan.runs if r.id in keep)})
    others = [
        p.outline.buffer(_CLEAR)
        for k, p in places.items()
        if k != vessel and p.vessel.within is None
    ]
    low_x, low_y, high_x, high_y = site.bounds
    step = max(_STEP, ((high_x - low_x) * (high_y - low_y) / _MOST) ** 0.5)
    now = _length(small, places)
    best: BetterPlace | None = None
    for x in np.arange(low_x + step, high_x, step):
        for y in np.arange(low_y + step, high_y, step):
            outline = affinity.translate(own.outline, float(x) - own.x, float(y) - own.y)
            if not site.contains(outline) or any(o.intersects(outline) for o in others):
                continue
            there = Placed(own.vessel, float(x), float(y), own.turned, True, outline)
            saved = now - _length(small, {**places, vessel: there})
            if saved > (best.saved if best is not None else _WORTH):
                best = BetterPlace(vessel, round(float(x), 2), round(float(y), 2), saved)
    return best


def _beyond_joints(plan: Plan, runs: set[str]) -> set[str]:
    """Runs that meet those at a joint without a place of its own, which moves with them."""
    loose = {j.id for j in plan.junctions if j.spot is None}
    touched = {e for r in plan.runs if r.id in runs for e in (r.start, r.end) if e in loose}
    return {r.id for r in plan.runs if {r.start, r.end} & touched}


def _length(plan: Plan, places: Mapping[str, Placed]) -> float:
    return sum(r.length for r in routes_of(plan, places))
