"""Salt that fresh water brings and that stays where water dries."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.simulation.boundary_conditions import open_area

__all__ = ["Salt", "salt_of"]

_WEEK, _DAYS = 604800.0, 7.0


@dataclass(frozen=True, slots=True)
class Salt:
    """Salt of fresh water in a plan's water.

    Attributes
    ----------
    a_week : float
        That the water gains at first, [g/m³]
    in_the_end : float or None
        That it comes to; none where none is let out, so that it climbs, [g/m³]
    """

    a_week: float
    in_the_end: float | None


def salt_of(found: Evaluation) -> Salt | None:
    """How salt from fresh water climbs, all the water together.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Salt or None
        None where fresh water is told to have none

    Notes
    -----
    One mixed water: what dries and what is let out is made up fresh. Salt leaves with what is let
    out alone: it climbs by S D / V, and comes to S (D + E) / E. What plants drink is not told and
    left out; it adds to what dries.
    """
    plan, salt = found.plan, found.plan.site.tap_salt
    water = sum(v.volume for v in found.vessels.values())
    if salt <= 0.0 or water <= 0.0:
        return None
    dries = _DAYS * plan.site.dries * sum(open_area(v) for v in plan.vessels)
    out = sum(m.volume * _WEEK / m.every for m in plan.moves if m.target is None)
    return Salt(salt * dries / water, salt * (dries + out) / out if out > 0.0 else None)
