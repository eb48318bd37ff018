"""A purge as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "sludge purge"

_CAN = 0.02  # two cans of 10 L [m³]


def usual(vessel: Vessel) -> Data:
    """Two cans once a week, to the garden.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {"name": "Sludge purge", "source": vessel.id, "target": None, "volume": _CAN}
