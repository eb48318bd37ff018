"""Surfaces on which bacteria work."""

from bathys.evaluation import Evaluation
from bathys.parts.media import CARRIERS, MEDIA
from bathys.plan.vessel import Vessel

__all__ = ["depth_of", "surfaces_of"]

_IN_BEDS = 0.15  # of a bed's surface that works: solids, dry zone, uneven flow (assumed) [-]
_STANDS_STILL = 0.5  # of what stands still in a vessel (assumed) [-]


def surfaces_of(found: Evaluation) -> dict[str, float]:
    """Surface in each vessel on which bacteria work: media, carriers, rafts and walls.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to float
        By vessel, [m²]
    """
    return {id_: _surface(v.vessel, depth_of(found, id_)) for id_, v in found.vessels.items()}


def depth_of(found: Evaluation, id_: str) -> float:
    """How deep the water of a vessel stands in the mean.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    id_ : str
        The vessel

    Returns
    -------
    float
        Between its lowest and its highest, [m]
    """
    result = found.vessels[id_]
    return max(0.5 * (result.levels.low + result.levels.high) - result.vessel.floor_height, 0.0)


def _surface(vessel: Vessel, depth: float) -> float:
    shape = vessel.shape
    area = shape.perimeter * depth + shape.footprint
    if vessel.use.has_rafts:
        area += shape.footprint
    if vessel.media is not None:
        media = vessel.media
        wet = max(min(depth, media.top) - media.bottom, 0.0)
        area += _IN_BEDS * MEDIA[media.kind].surface * wet * shape.footprint
    if vessel.carriers is not None:
        carriers = vessel.carriers
        kind = CARRIERS[carriers.kind]
        own = carriers.surface or kind.surface
        works = 1.0 if kind.is_moving else _STANDS_STILL
        area += works * own * carriers.volume
    return area
