"""``bathys water``: what the water of each vessel comes to."""

import math
from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.quality.alkalinity import alkalinity_of
from bathys.quality.reserve import reserve_of
from bathys.quality.survival import survivals_of
from bathys.quality.water import water_of
from bathys.units import System, show

__all__ = ["as_data", "as_text"]

_DAY = 86400.0
_MANY = 1e3


def _told(value: float, units: System) -> str:
    return show(value, "dissolved", units) if value < _MANY else "climbs"


def as_text(found: Evaluation, units: System) -> str:
    """Water, oxygen and what it could yet take, for a terminal.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    water = water_of(found)
    if water is None:
        return "Nothing is fed in this plan."
    plan = found.plan
    lines = [
        f"{plan.names[id_]}: {show(stock.mass, 'mass', units)} of {stock.species.called} "
        f"get {stock.feed:.3g} g of feed a day"
        for id_, stock in water.stock.items()
    ]
    rows = [
        (
            at.vessel.name,
            show(at.oxygen, "dissolved", units),
            _told(at.tan, units),
            _told(at.ammonia, units),
            _told(at.nitrite, units),
            "climbs" if water.nitrate_left > 0.0 else _told(at.nitrate, units),
            f"{at.ph:.1f}",
        )
        for at in water.vessels.values()
    ]
    heads = ("Vessel", "Oxygen", "Ammonia", "Harmful", "Nitrite", "Nitrate", "pH")
    lines += ["", *table(heads, rows)]
    alkalinity, reserve = alkalinity_of(found, water), reserve_of(found)
    if alkalinity.days is not None:
        lines += ["", f"Alkalinity lasts {alkalinity.days:.0f} days."]
    if reserve is not None:
        lines.append(f"It could take {reserve.feed:.3g} g of feed a day.")
    for row in survivals_of(found, water):
        if row.neither is not None:
            lines.append(
                f"{plan.names[row.vessel]} has oxygen for {show(row.neither, 'time', units)} "
                "without water and air."
            )
    return "\n".join(lines)


def as_data(found: Evaluation) -> dict[str, Any] | None:
    """The same as JSON data: concentrations in g/m³, masses in grams a day, times in seconds.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to object, or None
        JSON data; none for a plan that nothing is fed in
    """
    water = water_of(found)
    if water is None:
        return None

    def known(value: float) -> float | None:
        return value if math.isfinite(value) else None

    reserve, alkalinity = reserve_of(found), alkalinity_of(found, water)
    return {
        "feed_a_day": sum(s.feed for s in water.stock.values()),
        "vessels": {
            id_: {
                "oxygen": at.oxygen,
                "tan": known(at.tan),
                "ammonia": known(at.ammonia),
                "nitrite": known(at.nitrite),
                "nitrate": known(at.nitrate),
                "carbon_dioxide": at.carbon_dioxide,
                "ph": at.ph,
            }
            for id_, at in water.vessels.items()
        },
        "ammonia_made": water.made,
        "nitrified": water.nitrified,
        "taken_up": water.taken_up,
        "gas": water.gas,
        "nitrate_left": water.nitrate_left,
        "oxygen_used": water.oxygen_used,
        "oxygen_brought": water.oxygen_brought,
        "alkalinity_lost": alkalinity.lost,
        "alkalinity_days": alkalinity.days,
        "could_take": reserve.feed if reserve is not None else None,
        "survival": [
            {
                "vessel": s.vessel,
                "no_flow": s.no_flow,
                "no_air": s.no_air,
                "neither": s.neither,
            }
            for s in survivals_of(found, water)
        ],
    }
