"""Fish as they are usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "fish"

_LITRES_A_FISH = 40.0  # of tank, for fish of half a kilogram (common practice)


def usual(vessel: Vessel) -> Data:
    """Warm-water fish, one to each 40 L of tank, half grown.

    Parameters
    ----------
    vessel : Vessel
        The tank

    Returns
    -------
    Data
        Its fields, as plan data
    """
    depth = vessel.water_depth or 0.8 * vessel.shape.height
    count = max(int(1000.0 * vessel.shape.holds(depth) / _LITRES_A_FISH), 1)
    return {
        "name": "Fish",
        "stands_in": vessel.id,
        "species": "warm",
        "count": count,
        "mean_mass": 0.25,
        "harvest_mass": 0.5,
    }
