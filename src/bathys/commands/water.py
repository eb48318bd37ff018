"""``bathys water``: what the water of each vessel comes to."""

import math
from dataclasses import asdict
from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.quality.alkalinity import alkalinity_of
from bathys.quality.pairs import WEEKS, Pair, pair_course, pair_of, usual_let_down
from bathys.quality.reserve import reserve_of
from bathys.quality.survival import about, survivals_of
from bathys.quality.water import water_of
from bathys.quality.water_result import WaterResult
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
            _told(at.nitrate, units),
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
            lasts = show(about(row.neither), "time", units)
            lines.append(f"{plan.names[row.vessel]} has oxygen for {lasts} without water and air.")
    pair = pair_of(found)
    if pair is not None:
        lines += ["", *_pair_lines(found, water, pair, units)]
    return "\n".join(lines)


def _pair_lines(found: Evaluation, water: WaterResult, pair: Pair, units: System) -> list[str]:
    """Both loops of a pair over the weeks."""
    course = pair_course(found, water, pair, usual_let_down(found, pair))
    names = found.plan.names
    rows = [
        (
            f"{week}",
            _told(course.fish.nitrate[k], units),
            _told(course.plants.nitrate[k], units),
            f"{0.001 * course.fish.salt[k]:.2f} g/L",
            f"{0.001 * course.plants.salt[k]:.2f} g/L",
        )
        for k, week in enumerate(WEEKS)
    ]
    let_down = show(course.let_down, "volume", units)
    return [
        f"With {let_down} a week let down by {names[pair.carrier]}, and 1 g/L of salt at first:",
        *table(("Week", "Nitrate, fish", "Nitrate, plants", "Salt, fish", "Salt, plants"), rows),
    ]


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
    pair = pair_of(found)
    course = pair_course(found, water, pair, usual_let_down(found, pair)) if pair else None
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
        "pair": {"weeks": list(WEEKS), **asdict(course)} if course is not None else None,
    }
