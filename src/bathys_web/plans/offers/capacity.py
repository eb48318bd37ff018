"""How much more a plan's water could take, and how long a start without fish lasts."""

from typing import Any

from django.http import QueryDict

from bathys.evaluation import Evaluation
from bathys.pipeline import Assessment
from bathys.quality.cycling import DOSE, Cycling, cycled
from bathys.quality.dosing import SUBSTANCES, dose_of
from bathys.quality.reserve import (
    first_limit,
    idle_adds,
    least_flows,
    meal_adds,
    meal_ph,
    reserve_of,
)
from bathys.quality.season import Season, season_of, season_water
from bathys.quality.starting import FewFish, few_fish
from bathys.quality.water import water_of
from bathys.quality.water_result import Otherwise
from bathys.units import System, show
from bathys_web.plans.benches.plots import Curve, Plot, Spot
from bathys_web.plans.offer_context import OfferContext

__all__ = ["capacity_list", "season_list", "start_up_list"]

_DAY = 86400.0
_WARMER = 4.0  # water in which a start is told besides [K]
_FEWEST = 2  # days that make a curve
_LIMITS = {
    "ammonia": "then its ammonia harms the fish",
    "nitrite": "then its nitrite harms the fish",
    "oxygen": "then its oxygen is too low for the fish",
    "": "no limit is met up to that",
}


def capacity_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Feed at which a limit is first met, and the water at harvest.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    evaluation = found.evaluation
    reserve, now = reserve_of(evaluation), water_of(evaluation)
    if reserve is None or now is None:
        return {"has_fish": False}
    plan = evaluation.plan
    feed = sum(s.feed for s in now.stock.values())
    later = water_of(evaluation, Otherwise(harvest=True)) if plan.fish else None
    limit, tank = first_limit(later) if later is not None else ("", "")
    idle = water_of(evaluation, Otherwise(beds=False))
    idle_limit, idle_tank = first_limit(idle) if idle is not None else ("", "")
    asked_for = least_flows(evaluation)
    tanks = [v for v in evaluation.vessels.values() if v.vessel.id in now.stock]
    turnover = min((t.inflow / t.volume for t in tanks if t.volume > 0.0), default=0.0)
    return {
        "has_fish": True,
        "has_beds": any(v.media is not None for v in plan.vessels),
        "idle": _LIMITS[idle_limit] if idle_limit else "all limits hold",
        "idle_tank": plan.names.get(idle_tank, ""),
        "idle_fails": bool(idle_limit),
        "turnover": show(turnover, "per_hour", units),
        "flows": [
            {"limit": limit, "turnover": show(share * turnover, "per_hour", units)}
            for limit, share in asked_for.items()
        ],
        "meal": show(meal_adds(evaluation, now), "dissolved", units),
        "meal_tank": plan.names[meal_ph(evaluation, now)[0]],
        "meal_ph": f"{meal_ph(evaluation, now)[1]:.1f}",
        "rest": show(idle_adds(evaluation, now), "dissolved", units),
        "feed": f"{feed:.3g} g",
        "most": f"{reserve.feed:.3g} g",
        "times": f"{reserve.times:.2g}",
        "why": _LIMITS[reserve.limit],
        "tank": plan.names.get(reserve.vessel, ""),
        "is_over": reserve.times < 1.0,
        "harvest": _LIMITS[limit] if limit else "all limits hold",
        "harvest_tank": plan.names.get(tank, ""),
        "has_harvest": later is not None,
        "harvest_feed": f"{sum(s.feed for s in later.stock.values()):.3g} g" if later else "",
        "harvest_fails": bool(limit),
    }


def _plot(course: Cycling) -> Plot:
    days = [float(d) * _DAY for d in course.days]
    spots: tuple[Spot, ...] = ()
    if course.ready is not None:
        spots = (Spot(course.ready * _DAY, 0.5, "ready for fish", "good"),)
    return Plot(
        "Nitrogen in the water while it starts",
        ("since the first dose", "interval"),
        ("nitrogen", "dissolved"),
        (
            Curve("ammonia", days, course.tan.tolist(), "mark"),
            Curve("nitrite", days, course.nitrite.tolist(), "plum"),
        ),
        spots=spots,
    )


def start_up_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Ammonia and nitrite from the first dose on.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    evaluation = found.evaluation
    warm = evaluation.water.temperature
    volume = sum(v.volume for v in evaluation.vessels.values())
    rows = []
    warmer = show(warm + _WARMER, "temperature", units)
    for name, helped, degrees in (
        ("new media alone", False, warm),
        (f"new media alone, in water of {warmer}", False, warm + _WARMER),
        ("media of a running system", True, warm),
    ):
        course = cycled(degrees, inoculated=helped)
        rows.append(
            {
                "name": name,
                "ready": _days(course.ready),
                "soonest": _days(course.soonest),
                "latest": _days(course.latest),
            }
        )
    return {
        "rows": rows,
        "few": _few(few_fish(evaluation), units),
        "plot": _plot(cycled(warm)).as_json(units),
        "warm": show(warm, "temperature", units),
        "dose": show(0.001 * DOSE * volume, "dose", units),
        "urea": show(dose_of(SUBSTANCES["urea"], DOSE, volume), "dose", units),
        "water": show(volume, "volume", units),
    }


def _few(few: FewFish | None, units: System) -> dict[str, str]:
    """Fish that may come on the first day; empty where nothing is fed."""
    if few is None:
        return {}
    return {
        "mass": show(few.mass, "mass", units),
        "feed": f"{few.feed:.3g} g",
        "share": show(few.share, "percent", units),
    }


def _days(days: float | None) -> str:
    return f"{days:.0f} days" if days is not None else "over 90 days"


def season_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Fish growing through a season, against what plants want and the water can take.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    evaluation = found.evaluation
    season = season_of(evaluation)
    if season is None:
        return {"has_fish": False}
    plan, days = evaluation.plan, [d * _DAY for d in season.days]
    grams = Plot(
        "Feed a day while the fish grow",
        ("from now", "interval"),
        ("feed a day", "dose"),
        (Curve("feed", days, [0.001 * q for q in season.feed], "mark"),),
    )
    kilos = Plot(
        "What all fish weigh",
        ("from now", "interval"),
        ("fish", "mass"),
        (Curve("fish", days, list(season.mass), "deep"),),
    )
    return {
        "has_fish": True,
        "plots": [grams.as_json(units), kilos.as_json(units), *_waters(evaluation, season, units)],
        "enough": _day(season.enough_for_plants),
        "has_crops": any(v.crop is not None for v in plan.vessels),
        "too_much": _day(season.too_much),
        "harvest": [
            {"part": plan.part(id_), "day": _day(day)} for id_, day in season.harvest.items()
        ],
    }


def _waters(found: Evaluation, season: Season, units: System) -> list[str]:
    """Oxygen, and ammonia with nitrite, in the worst tank through the season."""
    course = season_water(found, season)
    days = [d * _DAY for d in course.days]
    if len(days) < _FEWEST:
        return []
    oxygen = Plot(
        "Oxygen in the worst fish tank",
        ("from now", "interval"),
        ("oxygen", "dissolved"),
        (Curve("oxygen", days, list(course.oxygen), "deep"),),
    )
    nitrogen = Plot(
        "Ammonia and nitrite in the worst fish tank",
        ("from now", "interval"),
        ("nitrogen", "dissolved"),
        (
            Curve("ammonia, all", days, list(course.tan), "mark"),
            Curve("nitrite", days, list(course.nitrite), "plum"),
        ),
    )
    return [oxygen.as_json(units), nitrogen.as_json(units)]


def _day(day: float | None) -> str:
    if day is None:
        return ""
    return "now" if day <= 0.0 else f"after {day:.0f} days"
