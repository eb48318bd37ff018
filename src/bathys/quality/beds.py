"""Solids that media beds and rafts hold: how much of them there will be."""

import math
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel
from bathys.quality.solids import SolidsResult

__all__ = ["BedSolids", "bed_solids", "raft_solids"]

_ROTS, _ROTS_WITH_WORMS = 0.02, 0.05  # of what a bed holds, a day (assumed) [1/d]
_LAID_DOWN = 30.0  # dry mass in what has laid down in a bed, over its volume: 3 % [kg/m³]
_GRAMS = 1000.0
_NEARLY = 3.0  # as many times one over its rate until it is within 5 % of its level


@dataclass(frozen=True, slots=True)
class BedSolids:
    """Solids in a media bed, once as much rots as comes.

    Attributes
    ----------
    vessel : Vessel
        The bed
    held : float
        Dry, that it holds a day, [g]
    level : float
        Dry, that it comes to, [g]
    days : float
        Until it is nearly there
    filled : float
        Share of the room between its media that they then take up, [-]
    has_worms : bool
        Whether worms are counted on
    """

    vessel: Vessel
    held: float
    level: float
    days: float
    filled: float
    has_worms: bool

    def after(self, days: float) -> float:
        """Dry, that it holds after so many days from clean [g]."""
        return self.level * (1.0 - math.exp(-self.held / self.level * days))


def bed_solids(found: Evaluation, solids: SolidsResult) -> tuple[BedSolids, ...]:
    """What every media bed comes to hold.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    solids : SolidsResult
        What becomes of its solids

    Returns
    -------
    tuple of BedSolids
        In the plan's order
    """
    has_worms = found.plan.brief.solids == "some_in"
    rate = _ROTS_WITH_WORMS if has_worms else _ROTS
    rows = []
    for vessel in found.plan.vessels:
        held = solids.held(vessel.id)
        if vessel.media is None or held <= 0.0:
            continue
        media = vessel.media
        depth = media.top - media.bottom
        room = media.void_fraction * vessel.shape.footprint * depth
        level = held / rate
        filled = min(level / _GRAMS / _LAID_DOWN / max(room, 1e-9), 1.0)
        rows.append(BedSolids(vessel, held, level, _NEARLY / rate, filled, has_worms))
    return tuple(rows)


def raft_solids(found: Evaluation, solids: SolidsResult) -> tuple[tuple[Vessel, float], ...]:
    """What settles under rafts and on roots.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    solids : SolidsResult
        What becomes of its solids

    Returns
    -------
    tuple of (Vessel, float)
        Every vessel with rafts, and dry solids a week over its water, [g/m²]
    """
    return tuple(
        (v, 7.0 * solids.held(v.id) / v.shape.footprint)
        for v in found.plan.vessels
        if v.use.has_rafts
    )
