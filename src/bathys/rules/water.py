"""What fish, bacteria, plants and air make of the water: rules N1 to N7.

They judge only a plan whose fish are told: how much there is of everything else then follows.
"""

import math
from collections.abc import Iterator
from functools import partial

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.plan.vessel import Vessel
from bathys.quality.alkalinity import alkalinity_of
from bathys.quality.feeding import feed_on_area
from bathys.rules.living import (
    fewer_fish,
    more_air,
    tanks_with_fish,
    water_told,
)
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_DAY = 86400.0
_ENOUGH = 1.1  # of the least oxygen that fish want, that more air is to give
_SOME_CARRIERS = 0.02  # [m³]


def _filter_of(evaluation: Evaluation) -> Vessel | None:
    """Where carriers would stand: a biofilter, else a settler, else a sump that water passes."""
    vessels = [v for v in evaluation.plan.vessels if evaluation.vessels[v.id].inflow > 0.0]
    for job in ("biofilter", "settler", "sump"):
        for vessel in vessels:
            if vessel.job == job:
                return vessel
    return None


def _untold(evaluation: Evaluation) -> str:
    """Filters of which nobody said what bacteria live on there."""
    names = [
        named(v)
        for v in evaluation.plan.vessels
        if v.job == "biofilter" and v.carriers is None and v.media is None
    ]
    return f" Say what carriers stand in {' and '.join(names)}." if names else ""


def _more_carriers(evaluation: Evaluation) -> tuple[Offer, ...]:
    """Some carriers, or twice those there are."""
    vessel = _filter_of(evaluation)
    if vessel is None:
        return ()
    old = vessel.carriers
    volume = 2.0 * old.volume if old is not None else _SOME_CARRIERS
    made = {"kind": old.kind if old is not None else "moving", "volume": volume}
    return (
        Offer(
            f"have {{volume:volume}} of carriers in {named(vessel)}",
            (Edit(f"vessels.{vessel.id}.carriers", made),),
            "",
            {"volume": volume},
        ),
    )


def _helps(evaluation: Evaluation) -> tuple[Offer, ...]:
    """More carriers, and as many fish as the water carries."""
    return (*_more_carriers(evaluation), *fewer_fish(evaluation))


@rule(
    Rule(
        "N1",
        "Ammonia",
        "Ammonia burns gills; bacteria on wet surfaces turn it over, if there are enough.",
        "published",
        "un-ionised share Emerson 1975, limits 0.02 to 0.05 mg/L (memory)",
    )
)
def _ammonia(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for tank, water in tanks_with_fish(evaluation):
        most = water.stock[tank.vessel.id].species.most_ammonia
        if tank.tan > 1e3:
            yield Finding(
                data,
                "ammonia_climbs",
                "fault",
                tank.vessel.id,
                f"{{made:dose}} of ammonia nitrogen a day are made, and all surfaces together turn "
                f"over less: it climbs in {named(tank.vessel)}.",
                "Feed less, or give bacteria more to live on." + _untold(evaluation),
                {"made": 0.001 * water.made},
                partial(_helps, evaluation),
            )
        elif tank.ammonia > most:
            yield Finding(
                data,
                "ammonia_high",
                "warning",
                tank.vessel.id,
                f"{named(tank.vessel)} comes to {{tan:dissolved}} of ammonia nitrogen; at pH "
                "{ph:ratio} {ammonia:dissolved} of it harm fish; {most:dissolved} is the most.",
                "Feed less, give bacteria more to live on, or let the pH be lower."
                + _untold(evaluation),
                {"tan": tank.tan, "ph": tank.ph, "ammonia": tank.ammonia, "most": most},
                partial(_helps, evaluation),
            )


@rule(
    Rule(
        "N2",
        "Nitrite",
        "Nitrite keeps blood from carrying oxygen; a little salt guards fish from it.",
        "common practice",
    )
)
def _nitrite(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for tank, water in tanks_with_fish(evaluation):
        most = water.stock[tank.vessel.id].species.most_nitrite
        if tank.nitrite <= most or tank.tan > 1e3:
            continue
        yield Finding(
            data,
            "nitrite_high",
            "warning",
            tank.vessel.id,
            f"{named(tank.vessel)} comes to {{nitrite:dissolved}} of nitrite nitrogen; "
            "{most:dissolved} is the most.",
            "Feed less, or give bacteria more to live on.",
            {"nitrite": min(tank.nitrite, 999.0), "most": most},
            partial(_helps, evaluation),
        )


@rule(
    Rule(
        "N3",
        "Oxygen",
        "Fish, bacteria, roots and what rots all draw on the same oxygen.",
        "published",
        "saturation Benson and Krause 1984; demand Timmons and Ebeling (memory)",
        limits={"share": 0.6},
    )
)
def _oxygen(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for tank, water in tanks_with_fish(evaluation):
        least = water.stock[tank.vessel.id].species.least_oxygen
        is_low = tank.oxygen < least
        share = data.limits["share"]
        if not is_low and tank.share >= share:
            continue
        yield Finding(
            data,
            "oxygen_low",
            "fault" if is_low else "note",
            tank.vessel.id,
            f"{named(tank.vessel)} comes to {{oxygen:dissolved}} of oxygen, {{share:percent}} of "
            "what its water can hold; its fish want {least:dissolved} at the least.",
            "More air, more flow, or fewer fish.",
            {"oxygen": tank.oxygen, "share": tank.share, "least": least},
            partial(_more_air_or_fewer_fish, evaluation, tank.vessel.id, share),
        )


def _more_air_or_fewer_fish(evaluation: Evaluation, tank: str, share: float) -> tuple[Offer, ...]:
    def enough(with_more: Evaluation, tank: str) -> bool:
        water = water_told(with_more)
        if water is None or tank not in water.stock:
            return True
        least = water.stock[tank].species.least_oxygen
        own = water.vessels[tank]
        return own.oxygen >= _ENOUGH * least and own.share >= share

    return (*more_air(evaluation, tank, enough), *fewer_fish(evaluation))


@rule(
    Rule(
        "N4",
        "Water as warm as fish want it",
        "Too cold they do not eat, too warm they lack air.",
        "common practice",
    )
)
def _temperature(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    warm = evaluation.plan.site.water_temperature
    for tank, water in tanks_with_fish(evaluation):
        fish = water.stock[tank.vessel.id].species
        if fish.coldest <= warm <= fish.warmest:
            continue
        yield Finding(
            data,
            "too_cold" if warm < fish.coldest else "too_warm",
            "warning",
            tank.vessel.id,
            f"The water is {{warm:temperature}}; the {fish.called} of {named(tank.vessel)} want "
            "{coldest:temperature} to {warmest:temperature}.",
            "Keep fish that suit the water, or warm or shade it.",
            {"warm": warm, "coldest": fish.coldest, "warmest": fish.warmest},
        )


@rule(
    Rule(
        "N5",
        "Alkalinity",
        "Bacteria use it up; without it the pH falls and they stop.",
        "published",
        "7.14 g of CaCO3 for each gram of nitrogen nitrified",
        limits={"soon": 30.0 * _DAY, "now": 7.0 * _DAY},
    )
)
def _alkalinity(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    water = water_told(evaluation)
    found = alkalinity_of(evaluation, water) if water is not None else None
    if found is None or found.days is None or found.days * _DAY >= data.limits["soon"]:
        return
    tank = next(iter(water.stock)) if water is not None else ""
    yield Finding(
        data,
        "alkalinity_goes",
        "warning" if found.days * _DAY < data.limits["now"] else "note",
        tank,
        "{lost:dose} of alkalinity are used up a day: after {days:time} it is under 2 °dH.",
        "Give {dose:dose} of potassium bicarbonate a week, or hang shell grit in the flow.",
        {"lost": 0.001 * found.lost, "days": found.days * _DAY, "dose": found.potassium},
    )


@rule(
    Rule(
        "N6",
        "Feed for the area of plants",
        "Fish feed plants: too little starves them, too much is left in the water.",
        "common practice",
        "schools from 40 to 100 g a square metre and day",
        limits={"least": 40.0, "most": 100.0},
    )
)
def _area(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    water = water_told(evaluation)
    given = feed_on_area(evaluation, water) if water is not None else None
    if given is None or data.limits["least"] <= given.feed <= data.limits["most"]:
        return
    is_little = given.feed < data.limits["least"]
    yield Finding(
        data,
        "feed_for_plants",
        "note",
        given.largest,
        "{area:surface} of plants get {feed:dose} of feed a day on each square metre: "
        + (
            "{least:dose} and more are usual."
            if is_little
            else "{most:dose} are the most of any school."
        ),
        "Plant less, or feed more." if is_little else "Plant more, or feed less.",
        {
            "area": given.area,
            "feed": 0.001 * given.feed,
            "least": 0.001 * data.limits["least"],
            "most": 0.001 * data.limits["most"],
        },
    )


@rule(
    Rule(
        "N7",
        "Nitrate finds an end",
        "What plants and gas do not take stays in the water and climbs.",
        "derived",
        limits={"least": 1.0},
    )
)
def _nitrate(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    water = water_told(evaluation)
    if water is None or water.nitrate_left <= 0.0:
        return
    climbs = [id_ for id_, at in water.vessels.items() if math.isinf(at.nitrate)]
    volume = sum(evaluation.vessels[id_].volume for id_ in climbs)
    week = 7.0 * water.nitrate_left / max(volume, 1e-9)
    if week < data.limits["least"]:
        return
    yield Finding(
        data,
        "nitrate_climbs",
        "note",
        next(iter(water.stock)),
        "Nitrate nitrogen climbs by {week:dissolved} a week: plants take less than is made.",
        "Tell what grows in the beds, plant more, or exchange some water.",
        {"week": week},
    )
