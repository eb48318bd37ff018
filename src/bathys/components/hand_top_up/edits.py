"""Topping up by hand as it is usually done."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "top-up by hand"


def usual(vessel: Vessel) -> Data:
    """By a garden hose to where the vessel is filled to, every three days.

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
    return {"name": "Top-up by hand", "stands_in": vessel.id, "level": level, "flow": 2e-4}
