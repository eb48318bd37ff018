"""An air stone as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "air stone"

_HOUR = 3600.0


def usual(vessel: Vessel) -> Data:
    """As much air an hour as the vessel holds water, from near its floor.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    depth = vessel.water_depth or 0.8 * vessel.shape.height
    return {
        "name": "Air stone",
        "stands_in": vessel.id,
        "flow": round(vessel.shape.holds(depth) / _HOUR, 6),
    }
