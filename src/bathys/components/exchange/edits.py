"""An exchange as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "water exchange"


def usual(vessel: Vessel) -> Data:
    """A tenth a week.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {"name": "Water exchange", "stands_in": vessel.id, "share": 0.1, "flow": 2e-4}
