"""How long a cord or a cable each thing wants that is plugged in."""

from bathys.evaluation import Evaluation
from bathys.ground import placed
from bathys.quality.power import power_of

__all__ = ["cables_of"]

_LOOP = 0.5  # for the drip loop and the plug (common practice) [m]
_OVER = 0.3  # of a socket over the highest water (common practice) [m]


def cables_of(found: Evaluation) -> dict[str, float]:
    """From the nearest power point to what draws power, by right angles, with a drip loop.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to float
        By id, for what stands in or by a vessel, [m]; empty where the ground plan has no power
        point, or no vessel is placed on it
    """
    plan = found.plan
    points = [m for m in plan.ground.marks if m.kind == "power"] if plan.ground is not None else []
    if not points or all(v.spot is None for v in plan.vessels):
        return {}
    spots = placed(plan)
    high = max((r.levels.high for r in found.vessels.values()), default=0.0)
    lengths = {}
    for consumer in power_of(found):
        vessel = plan.owner_of(consumer.id)
        if vessel is None or vessel not in spots:
            continue
        spot = spots[vessel]
        along = min(abs(spot.x - m.x) + abs(spot.y - m.y) for m in points)
        down = high + _OVER - spot.vessel.floor_height
        lengths[consumer.id] = along + max(down, 0.0) + _LOOP
    return lengths
