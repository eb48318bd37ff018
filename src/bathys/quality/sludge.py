"""Sludge: how much of what is caught, how thick, and when it must be let out."""

from dataclasses import dataclass

from bathys.plan.vessel import Vessel
from bathys.quality.solids import SolidsResult

__all__ = ["THICKNESS", "Sludge", "sludge_of"]

THICKNESS = (0.02, 0.01, 0.03)
"""Dry mass over the sludge's, and the ends of its doubt (common practice) [-]."""

_GRAMS_A_LITRE = 1000.0
_PURGE = 2.0  # what is let out over the sludge itself, since clear water comes with it (assumed)


@dataclass(frozen=True, slots=True)
class Sludge:
    """What stands in a settler.

    Attributes
    ----------
    vessel : str
        Its id
    dry : float
        Caught a day, dry, [g]
    volume : float
        As sludge a day, [m³]
    mark : float
        Height at which it is let out, [m]
    room : float
        Up to that mark, [m³]
    days, soonest, latest : float or None
        Until it stands at the mark, and the ends of the doubt; none where nothing is caught
    purge : float
        Let out each time, clear water with it, [m³]
    """

    vessel: str
    dry: float
    volume: float
    mark: float
    room: float
    days: float | None
    soonest: float | None
    latest: float | None
    purge: float


def sludge_of(found: SolidsResult, vessel: Vessel) -> Sludge | None:
    """The sludge of one settler.

    Parameters
    ----------
    found : SolidsResult
        What becomes of the solids
    vessel : Vessel
        A vessel with a settler's insides

    Returns
    -------
    Sludge or None
        None for one with no settler's insides
    """
    inside = vessel.settler
    if inside is None:
        return None
    mark = inside.sludge_mark or vessel.shape.bottom or 0.1 * vessel.shape.height
    room = vessel.shape.holds(mark)
    dry = found.held(vessel.id)
    each = [dry / (share * _GRAMS_A_LITRE) / 1000.0 for share in THICKNESS]
    days = [room / v if v > 0.0 else None for v in each]
    return Sludge(vessel.id, dry, each[0], mark, room, days[0], days[1], days[2], _PURGE * room)
