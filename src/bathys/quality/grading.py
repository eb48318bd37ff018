"""How long fish are, and which mesh holds them."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.stock import Stock

__all__ = ["THICKNESS", "Grading", "gradings_of", "length_of"]

THICKNESS = 0.125
"""Width of a fish over its length: it passes an opening as wide (common practice) [-]."""

_GRADES = (0.013, 0.032, 0.080)  # lengths at which fry are sorted by size (common practice) [m]
_APART = 2.0  # times the mean length, at most, where large fish eat small ones (common practice)


@dataclass(frozen=True, slots=True)
class Grading:
    """The size of a cohort.

    Attributes
    ----------
    stock : Stock
        The cohort
    length, length_at_harvest : float
        Of one fish now and at harvest, [m]
    mesh : float
        Opening that one fish now does not pass, [m]
    next_grade : float or None
        Length at which they are next sorted; none once they are past all
    eaten_by : str
        Cohort in the same tank that is large enough to eat them; empty if there is none
    """

    stock: Stock
    length: float
    length_at_harvest: float
    mesh: float
    next_grade: float | None
    eaten_by: str


def length_of(mass: float, stoutness: float) -> float:
    """Length of a fish by Fulton's factor: K = 100 m / L³ with grams and centimetres.

    Parameters
    ----------
    mass : float
        Of one fish, [kg]
    stoutness : float
        Fulton's factor K, [-]

    Returns
    -------
    float
        Length, [m]
    """
    return float(0.01 * (100.0 * 1000.0 * mass / stoutness) ** (1.0 / 3.0))


def gradings_of(found: Evaluation) -> tuple[Grading, ...]:
    """The size of every cohort.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Grading
        In the plan's order
    """
    plan = found.plan
    lengths = {s.id: length_of(s.mass_each, s.stands.stoutness) for s in plan.fish}
    rows = []
    for stock in plan.fish:
        own = lengths[stock.id]
        eater = next(
            (
                s.id
                for s in plan.fish
                if s.stands_in == stock.stands_in and lengths[s.id] > _APART * own
            ),
            "",
        )
        rows.append(
            Grading(
                stock,
                own,
                length_of(stock.harvest_each, stock.stands.stoutness),
                THICKNESS * own,
                next((g for g in _GRADES if g > own), None),
                eater,
            )
        )
    return tuple(rows)
