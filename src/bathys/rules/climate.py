"""Sun and light: rules N12 to N15 and N20."""

from collections.abc import Iterator

from bathys.edits import Edit
from bathys.edits.adding import free_id
from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.quality.grading import gradings_of
from bathys.quality.hot_day import hot_day, hot_water
from bathys.quality.light import lights_of
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []


@rule(
    Rule(
        "N12",
        "Water on the hottest day",
        "Warm water holds little oxygen, and fish eat little in it.",
        "derived",
    )
)
def _too_hot(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    water = hot_water(evaluation) if plan.fish else None
    if water is None:
        return
    stock = min(plan.fish, key=lambda s: s.stands.warmest)
    day = hot_day(evaluation) if water[0] > stock.stands.warmest else None
    if day is None:
        return
    cooler = min((m.hottest for m in day.measures), default=day.hottest)
    yield Finding(
        data,
        "water_too_hot",
        "warning",
        stock.id,
        "On the hottest day the water comes to {hottest:temperature}; "
        f"{named(stock)} do well up to {{warmest:temperature}}.",
        "Shade it, cover it or dig it in; the best of these makes {cooler:temperature}.",
        {"hottest": day.hottest, "warmest": stock.stands.warmest, "cooler": cooler},
        tuple(_shaded(evaluation)),
    )


def _shaded(evaluation: Evaluation) -> Iterator[Offer]:
    """Netting over it, and lids and wraps where there are none."""
    plan = evaluation.plan
    if plan.site.shelter == "sky":
        yield Offer("hang shade netting over it", (Edit("site.shelter", "netting"),))
    bare = [v for v in plan.vessels if v.walls == "bare"]
    if bare:
        wraps = tuple(Edit(f"vessels.{v.id}.walls", "insulated") for v in bare)
        yield Offer("wrap all bare walls", wraps)


@rule(
    Rule(
        "N13",
        "Water at the roots",
        "In warm water roots lack oxygen and rot; leafy crops bolt.",
        "common practice",
    )
)
def _warm_roots(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    water = hot_water(evaluation)
    warm = evaluation.plan.site.water_temperature
    hottest = max(warm, water[0]) if water is not None else warm
    limits = [
        (v.crop.grows.warmest_roots, v) for v in evaluation.plan.vessels if v.crop is not None
    ]
    warm_ones = [row for row in limits if hottest > row[0]]
    if not warm_ones:
        return
    most, vessel = min(warm_ones, key=lambda row: row[0])
    others = f" and {len(warm_ones) - 1} more" if len(warm_ones) > 1 else ""
    yield Finding(
        data,
        "roots_too_warm",
        "note",
        vessel.id,
        f"Roots in {named(vessel)}{others} stand in water of up to {{hottest:temperature}}; such "
        "crops do well up to {most:temperature}.",
        "Grow what stands warm water, or shade and cool it.",
        {"hottest": hottest, "most": most},
    )


@rule(
    Rule(
        "N14",
        "Light on the crop",
        "Too little light makes thin plants that take up little.",
        "common practice",
    )
)
def _dark(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for light in lights_of(evaluation):
        got = light.sun + light.lamps
        if got >= light.least:
            continue
        watts = 1000.0 * light.lamp_energy / _HOURS
        yield Finding(
            data,
            "too_dark",
            "note",
            light.vessel.id,
            f"{named(light.vessel)} gets {{got:ratio}} mol/m² of light on a bright day; its crop "
            "wants {least:ratio} or more.",
            "Lamps of {watts:power} for 14 hours a day make up for it.",
            {"got": got, "least": light.least, "watts": watts},
            (
                Offer(
                    "hang lamps of {watts:power} over it",
                    (Edit("appliances.+", _lamp(evaluation, light.vessel.id, watts)),),
                    "",
                    {"watts": watts},
                ),
            ),
        )


_HOURS = 14.0
_SPARE = 1.02  # of lamps over what lacks, so that rounding leaves none


def _lamp(evaluation: Evaluation, vessel: str, watts: float) -> dict[str, object]:
    return {
        "id": free_id(evaluation.plan, "L"),
        "kind": "appliance",
        "name": f"Lamps of {vessel}",
        "use": "lamp",
        "stands_in": vessel,
        "power": round(_SPARE * watts, 1),
        "begins": 21600.0,
        "runs": _HOURS * 3600.0,
    }


@rule(
    Rule(
        "N15",
        "Fish of a size together",
        "A fish eats another that is less than half as long.",
        "common practice",
    )
)
def _mixed(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for row in gradings_of(evaluation):
        if not row.eaten_by:
            continue
        larger = evaluation.plan.part(row.eaten_by)
        yield Finding(
            data,
            "fish_eat_fish",
            "note",
            row.stock.id,
            f"{named(row.stock)} are {{length:length}} long; {named(larger)} in the same tank are "
            "more than twice as long, and may eat them.",
            "Keep them apart behind a mesh of {mesh:length}, or in another tank.",
            {"length": row.length, "mesh": row.mesh},
        )


@rule(
    Rule(
        "N20",
        "Evaporation as it is asked for",
        "What dries off decides how long a sump lasts.",
        "derived",
    )
)
def _no_climate(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    site = evaluation.plan.site
    if site.evaporation_from == "climate" and site.hot_air is None:
        yield Finding(
            data,
            "climate_not_told",
            "warning",
            evaluation.plan.vessels[0].id,
            "Evaporation is to follow the climate, but the hottest air is not told: "
            "{dries:length} a day is used.",
            "Type the hottest air under Plan and site, or take evaporation as told.",
            {"dries": site.dries},
            (Offer("take evaporation as told", (Edit("site.evaporation_from", "told"),)),),
        )
