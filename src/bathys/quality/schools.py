"""How many fish the schools of thumb would keep, beside the balance."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.media import CARRIERS

__all__ = ["StockSchool", "stock_schools"]

_MEDIA_A_KILO = 0.05  # 25 L of wet media for half a kilogram of fish [m³/kg]
_CARRIERS_A_KILO = 0.002  # a litre of moving carriers for half a kilogram [m³/kg]
_LITRE = 1e-3


@dataclass(frozen=True, slots=True)
class StockSchool:
    """A rule of thumb for how many fish a plan carries.

    Attributes
    ----------
    name : str
        What it goes by
    has : float
        Of that in the plan, [m³]
    mass : float
        Fish that it would keep, [kg]
    """

    name: str
    has: float
    mass: float


def stock_schools(found: Evaluation) -> tuple[StockSchool, ...]:
    """Fish by each rule of thumb that says something of the plan.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of StockSchool
        Common practice, none of them a balance
    """
    plan = found.plan
    media = 0.0
    for result in found.vessels.values():
        own = result.vessel.media
        if own is not None:
            wet = min(result.levels.high - result.vessel.floor_height, own.top) - own.bottom
            media += max(wet, 0.0) * result.vessel.shape.footprint
    moving = sum(
        v.carriers.volume
        for v in plan.vessels
        if v.carriers is not None and CARRIERS[v.carriers.kind].is_moving
    )
    tanks = sum(found.vessels[v.id].volume for v in plan.vessels if v.use.keeps_fish)
    rows = [
        StockSchool("25 L of wet media for half a kilogram of fish", media, media / _MEDIA_A_KILO),
        StockSchool(
            "a litre of moving carriers for half a kilogram", moving, moving / _CARRIERS_A_KILO
        ),
        StockSchool("a litre of tank for each 20 g of fish", tanks, 0.02 * tanks / _LITRE),
    ]
    return tuple(r for r in rows if r.has > 0.0)
