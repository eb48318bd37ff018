"""A mineralising round as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "mineralising round"


def usual(vessel: Vessel) -> Data:
    """Just under half of it once a week.

    Parameters
    ----------
    vessel : Vessel
        The drum

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {"name": "Mineralising round", "stands_in": vessel.id}
