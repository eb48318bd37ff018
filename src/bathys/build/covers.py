"""Covers of vessels: how large, and what follows from them."""

from dataclasses import dataclass

from bathys.ground import footprint_of
from bathys.plan.model import Plan
from bathys.plan.vessel import Vessel

__all__ = ["Cover", "covers_of"]

_LAPS = 0.1  # over the rim on every side (common practice) [m]
_LID = 0.95  # share of a vessel that is covered, from which it has a lid [-]


@dataclass(frozen=True, slots=True)
class Cover:
    """What lies over a vessel.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    kind : str
        ``uncovered``, ``net``, ``screen`` or ``lid``
    length, width : float
        Of the piece to buy or cut, over the rim on every side, [m]
    dries : float
        Water that it still loses on a day as the site tells, [m³]
    """

    vessel: Vessel
    kind: str
    length: float
    width: float
    dries: float


def covers_of(plan: Plan) -> tuple[Cover, ...]:
    """The cover of every vessel with open water.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of Cover
        In the plan's order; beds under media and rafts have none, nor what stands in another
        vessel. What is covered nearly whole counts as under a lid
    """
    rows = []
    for vessel in plan.vessels:
        if vessel.within is not None or vessel.media is not None or vessel.use.has_rafts:
            continue
        kind = "lid" if vessel.covered >= _LID else vessel.cover
        left, near, right, far = footprint_of(vessel.shape).bounds
        open_ = vessel.shape.footprint * (1.0 - vessel.covered)
        rows.append(
            Cover(
                vessel,
                kind,
                right - left + 2.0 * _LAPS,
                far - near + 2.0 * _LAPS,
                open_ * plan.site.dries,
            )
        )
    return tuple(rows)
