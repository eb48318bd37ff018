"""Two loops apart: what is let down to the plants, and both loops over the weeks."""

from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment
from bathys.plan.pipes import Run
from bathys.quality.letting_down import LONGEST, LettingDown, letting_down
from bathys.quality.pairs import (
    PH_OF_FISH,
    PH_OF_PLANTS,
    WEEKS,
    LoopCourse,
    PairCourse,
    pair_course,
    pair_of,
    usual_let_down,
)
from bathys.quality.water import water_of
from bathys.simulation import NotSimulated
from bathys.units import System, UnreadableQuantity, read, show, show_number
from bathys_web.plans.offer_context import OfferContext

__all__ = ["pair_list"]

_MOST = 2.0  # of the fish loop a week
_LONGEST = 40


def pair_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What goes from the fish to the plants, and what that does over twelve weeks.

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
    pair, water = pair_of(evaluation), water_of(evaluation)
    if pair is None or water is None:
        return {"has_pair": False}
    whole = sum(evaluation.vessels[m].volume for m in pair.fish)
    usual = usual_let_down(evaluation, pair)
    typed = asked.get("let_down", "").strip()[:_LONGEST]
    let_down, error = usual, ""
    if typed:
        try:
            let_down = read(typed, "volume", units)
        except UnreadableQuantity as wrong:
            error = str(wrong)
        else:
            if not 0.0 < let_down <= _MOST * whole:
                most = show(_MOST * whole, "volume", units)
                error = f"It must be more than 0 and at most {most}, twice the fish loop."
                let_down = usual
    course = pair_course(evaluation, water, pair, let_down)
    plan = evaluation.plan
    carrier = plan.part(pair.carrier)
    return {
        "has_pair": True,
        "carrier": carrier,
        "typed": typed or show(usual, "volume", units),
        "error": error,
        "let_down": show(let_down, "volume", units),
        "a_day": show(let_down / 7.0, "volume", units),
        "opening": _opening(plan, carrier, let_down / 7.0, units),
        "loops": [
            _loop("Fish", PH_OF_FISH, course.fish, [plan.names[m] for m in pair.fish], units),
            _loop(
                "Plants", PH_OF_PLANTS, course.plants, [plan.names[m] for m in pair.plants], units
            ),
        ],
        "weeks": [
            {
                "week": week,
                "fish": show(course.fish.nitrate[k], "dissolved", units),
                "plants": show(course.plants.nitrate[k], "dissolved", units),
                "fish_ph": f"{course.fish.ph[k]:.1f}",
                "plants_ph": f"{course.plants.ph[k]:.1f}",
                "fish_salt": _salt(course.fish.salt[k]),
                "plants_salt": _salt(course.plants.salt[k]),
            }
            for k, week in enumerate(WEEKS)
        ],
        **_ends(course, units),
    }


def _salt(level: float) -> str:
    return f"{0.001 * level:.2f} g/L"


def _loop(
    name: str, held_to: tuple[float, float], loop: LoopCourse, vessels: list[str], units: System
) -> dict[str, Any]:
    low, high = held_to
    return {
        "name": name,
        "vessels": ", ".join(vessels),
        "volume": show(loop.volume, "volume", units),
        "dries": show(loop.dries, "volume", units),
        "ph": f"{loop.ph[0]:.1f}",
        "later": f"{loop.ph[-1]:.1f}",
        "drifts": not low - 0.05 <= loop.ph[-1] <= high + 0.05,
        "range": f"{low:g} to {high:g}",
        "is_off": not low - 0.05 <= loop.ph[0] <= high + 0.05,
    }


def _ends(course: PairCourse, units: System) -> dict[str, Any]:
    """Where both loops end, and what would stop the plant loop's drift."""
    last, drift = course.plants.nitrate[-1], course.drift
    return {
        "made": show(0.001 * course.made, "dose", units),
        "taken": show(0.001 * course.taken_up, "dose", units),
        "in_the_end": show(course.in_the_end, "dissolved", units),
        "drift": f"{show_number(abs(drift), 'dissolved', units)} mg/L",
        "climbs": drift > 0.0,
        "bleed": show(course.bleed, "volume", units) if course.bleed > 0.0 else "",
        "bleed_at": show(last, "dissolved", units),
        "surplus": show(course.surplus, "volume", units) if course.surplus > 0.0 else "",
        "short": show(0.001 * course.alkalinity_short, "dose", units)
        if course.alkalinity_short > 0.0
        else "",
    }


def _opening(plan: Any, carrier: Any, volume: float, units: System) -> dict[str, Any] | None:
    """One opening a day of a valve; none for what is moved in another way."""
    if not isinstance(carrier, Run):
        return None
    try:
        told = letting_down(plan, carrier.id, volume)
    except NotSimulated as why:
        return {"fails": str(why)}
    return _told(told, plan.names, volume, units)


def _told(told: LettingDown, names: dict[str, str], volume: float, units: System) -> dict[str, Any]:
    return {
        "time": show(told.seconds, "time", units),
        "too_slow": told.seconds >= LONGEST and told.volume < 0.98 * volume,
        "through": show(told.volume, "volume", units),
        "falls": names[told.falls[0]],
        "fall": show(told.falls[1], "length", units),
        "rises": names[told.rises[0]],
        "rise": show(told.rises[1], "length", units),
        "spilled": show(told.spilled, "volume", units) if told.spilled > 0.0 else "",
        "dry": [names[p] for p in told.dry],
    }
