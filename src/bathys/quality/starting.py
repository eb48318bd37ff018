"""When fish may come, and how many may come at once."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.quality.cycling import cycled, dose_with_fish
from bathys.quality.water import TAN_OF_PROTEIN, water_of

__all__ = ["FewFish", "few_fish", "ready_after"]


@dataclass(frozen=True, slots=True)
class FewFish:
    """Fish that a start with fish carries.

    Attributes
    ----------
    feed : float
        A day from the first day on, [g]
    mass : float
        Fish that eat so much, [kg]
    share : float
        Of the fish of the plan, [-]
    """

    feed: float
    mass: float
    share: float


def few_fish(found: Evaluation) -> FewFish | None:
    """How many of a plan's fish may come on the first day.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    FewFish or None
        By what the most tender of them stand, with a fifth of the water exchanged each day; none
        where nothing is fed
    """
    water = water_of(found)
    if water is None:
        return None
    stocks = list(water.stock.values())
    fed, mass = sum(s.feed for s in stocks), sum(s.mass for s in stocks)
    if fed <= 0.0:
        return None
    tender = min(stocks, key=lambda s: s.species.most_ammonia)
    at = water.vessels[tender.vessel]
    harmful = at.ammonia / at.tan if at.tan > 0.0 and at.ammonia > 0.0 else 0.05
    most_nitrite = min(s.species.most_nitrite for s in stocks)
    # To two figures, so that what is kept serves from one edit to the next.
    most_tan = float(f"{tender.species.most_ammonia / harmful:.2g}")
    dose = dose_with_fish(found.water.temperature, most_tan, most_nitrite)
    volume = sum(v.volume for v in found.vessels.values())
    protein = sum(s.feed * s.protein for s in stocks) / fed
    feed = min(dose * volume / (protein * TAN_OF_PROTEIN), fed)
    return FewFish(feed, mass * feed / fed, feed / fed)


def ready_after(found: Evaluation) -> tuple[float | None, float | None, float | None]:
    """Days from the first dose until fish may come, without any.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of float or None
        About, soonest and latest, [d]; none if not within ninety
    """
    course = cycled(found.water.temperature)
    return course.ready, course.soonest, course.latest
