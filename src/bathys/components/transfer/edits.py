"""A transfer as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "transfer by the clock"


def usual(vessel: Vessel) -> Data:
    """A can a day taken out by hand, until the builder says where to.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {"name": "Transfer", "source": vessel.id, "target": None, "volume": 0.01, "flow": 1e-4}
