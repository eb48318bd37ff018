"""How long the alkalinity of the water lasts, and what to give for it."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.quality.water_result import WaterResult

__all__ = ["DEGREE", "Alkalinity", "alkalinity_of"]

DEGREE = 17.85
"""One degree of hardness, as CaCO3 [g/m³]."""

_LEAST = 2.0 * DEGREE  # under which the pH is no longer held (common practice) [g/m³]
_SODIUM, _POTASSIUM = 1.68, 2.00  # NaHCO3 and KHCO3 for one of CaCO3 [g/g]
_WEEK = 7.0
_GRAMS = 1000.0


@dataclass(frozen=True, slots=True)
class Alkalinity:
    """The alkalinity of a plan's water.

    Attributes
    ----------
    lost : float
        A day, what fresh water brings taken off, as CaCO3, [g]
    held : float
        In all the water, as CaCO3, [g]
    days : float or None
        Until it is under two degrees; none if it lasts
    sodium, potassium : float
        Bicarbonate that makes up for it, a week, [kg]
    """

    lost: float
    held: float
    days: float | None
    sodium: float
    potassium: float


def alkalinity_of(found: Evaluation, water: WaterResult) -> Alkalinity:
    """What bacteria use up of it, and how long it lasts.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    Alkalinity
        Of all its water together
    """
    plan, site = found.plan, found.plan.site
    volume = sum(v.volume for v in found.vessels.values())
    fresh = sum(
        m.volume / m.every * 86400.0
        for m in plan.moves
        if m.target is None and m.source is not None
    )
    brought = fresh * (site.tap_alkalinity - site.alkalinity)
    lost = water.alkalinity_lost - brought
    held = volume * site.alkalinity
    over = volume * max(site.alkalinity - _LEAST, 0.0)
    days = over / lost if lost > 0.0 else None
    weekly = max(lost, 0.0) * _WEEK / _GRAMS
    return Alkalinity(lost, held, days, _SODIUM * weekly, _POTASSIUM * weekly)
