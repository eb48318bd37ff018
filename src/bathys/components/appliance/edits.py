"""Something plugged in, as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "heater, lamp or other"

_MORNING, _HOURS = 6.0 * 3600.0, 14.0 * 3600.0


def usual(vessel: Vessel) -> Data:
    """A lamp over what grows, a heater elsewhere.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    head = {"stands_in": vessel.id}
    if vessel.media is not None or vessel.use.has_rafts:
        return {
            **head,
            "name": "Lamp",
            "use": "lamp",
            "power": 100.0,
            "begins": _MORNING,
            "runs": _HOURS,
        }
    return {**head, "name": "Heater", "use": "heater", "power": 300.0}
