"""A float valve as it is usually fitted."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "float valve"


def usual(vessel: Vessel) -> Data:
    """It shuts where the vessel is filled to.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    level = vessel.water_depth or 0.7 * vessel.shape.height
    return {"name": "Float valve", "stands_in": vessel.id, "level": level, "flow": 5e-5}
