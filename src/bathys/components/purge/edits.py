"""A purge as it is usually begun."""

from bathys.edits.usual import Data
from bathys.plan.vessel import Vessel

__all__ = ["NAME", "usual"]

NAME = "sludge purge"

_MARK, _CLEAR = 0.15, 2.0  # of the shell's height, and all that goes over the sludge (assumed)


def usual(vessel: Vessel) -> Data:
    """The sludge up to its mark and as much clear water, once a week, to the garden.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    Data
        Its fields, as plan data
    """
    shell = vessel.shape
    mark = vessel.settler.sludge_mark if vessel.settler is not None else 0.0
    volume = _CLEAR * shell.holds(mark or shell.bottom or _MARK * shell.height)
    return {"name": "Sludge purge", "source": vessel.id, "target": None, "volume": round(volume, 4)}
