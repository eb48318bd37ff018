"""Rules on what vessels are made of and what stands in them: U18, W2 to W4."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.physics import GRAVITY
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_HAIR = 1e-3  # [m]
_DENSITY = 998.0  # of water at 20 °C (IAPWS 2008, table value) [kg/m³]


@rule(
    Rule(
        "U18",
        "A vessel within another stays put",
        "Water that stands higher around a vessel than within lifts it, or runs into it.",
        "derived",
    )
)
def _nested(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        inner = result.vessel
        if inner.within is None:
            continue
        around = evaluation.vessels[inner.within]
        rim = inner.floor_height + inner.shape.height
        over = around.levels.high - rim
        if over > _HAIR:
            yield Finding(
                data,
                "flooded_from_around",
                "fault",
                inner.id,
                f"The water in {named(around.vessel)} stands {{over:length}} over the rim of "
                f"{named(inner)} and runs into it; that is not worked out.",
                f"Raise {named(inner)}, or hold the level around it lower.",
                {"over": over},
            )
            continue
        lifted = around.levels.high - max(result.levels.low, inner.floor_height)
        if lifted > _HAIR and around.levels.high > inner.floor_height + _HAIR:
            force = _DENSITY * inner.shape.footprint * lifted
            yield Finding(
                data,
                "floats",
                "warning",
                inner.id,
                f"Around {named(inner)} the water stands up to {{lifted:length}} higher than "
                "within: it lifts it with the weight of {force:mass}.",
                "Weigh it down or fix it, its own weight counted off.",
                {"lifted": lifted, "force": force},
            )


@rule(
    Rule(
        "W2",
        "Load on a dry cone",
        "A cone with air behind it carries all the water over it.",
        "derived",
    )
)
def _cone(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        cone = result.vessel.false_cone
        if cone is None or cone.flooded:
            continue
        deep = max(result.levels.high - result.vessel.floor_height, 0.0)
        wide = result.vessel.shape.footprint
        foot = 0.25 * math.pi * cone.foot_diameter**2
        # The downward push on the slope: the water that stands over it.
        share = (wide + math.sqrt(wide * foot) + foot) / 3.0
        under = min(deep, cone.cone_height)
        water = wide * (deep - under) + share * under
        load = _DENSITY * max(water - foot * deep, 0.0)
        yield Finding(
            data,
            "dry_cone",
            "warning",
            result.vessel.id,
            f"The cone in {named(result.vessel)} is dry behind and carries {{load:mass}} of water, "
            "{pressure:pressure_load} at its foot.",
            "Support it all over, or let water behind it.",
            {"load": load, "pressure": _DENSITY * GRAVITY * deep},
            (
                Offer(
                    "let water behind it",
                    (Edit(f"vessels.{result.vessel.id}.false_cone.flooded", value=True),),
                ),
            ),
        )


@rule(
    Rule(
        "W3",
        "Walls of a cut tote",
        "Cut out of its cage, a tote’s wall bulges and its rim tears.",
        "common practice",
        limits={"deep": 0.4},
    )
)
def _tote(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        shape = result.vessel.shape
        if getattr(shape, "has_bars", True):
            continue
        deep = result.levels.high - result.vessel.floor_height
        if deep > data.limits["deep"]:
            yield Finding(
                data,
                "bulges",
                "warning",
                result.vessel.id,
                f"{named(result.vessel)} has no cage and holds {{deep:length}} of water; its walls "
                "bear about {limit:length}.",
                "Leave the bars of its cage on, or frame it in timber.",
                {"deep": deep, "limit": data.limits["deep"]},
                (
                    Offer(
                        "keep its cage",
                        (Edit(f"vessels.{result.vessel.id}.shape.has_bars", value=True),),
                    ),
                ),
            )


@rule(
    Rule(
        "O3",
        "Calm water under baffles",
        "Water that rushes under a plate stirs up what has settled.",
        "common practice",
        limits={"speed": 0.1},
    )
)
def _baffles(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        plates = result.vessel.baffles
        if plates is None or result.inflow <= 0.0:
            continue
        speed = result.inflow / (plates.gap * plates.width)
        if speed > data.limits["speed"]:
            wanted = result.inflow / (data.limits["speed"] * plates.width)
            yield Finding(
                data,
                "gap_narrow",
                "warning",
                result.vessel.id,
                f"Under the plates of {named(result.vessel)} water passes at {{speed:speed}}; "
                "{most:speed} is the most.",
                "Raise them to {wanted:length} over the floor.",
                {"speed": speed, "most": data.limits["speed"], "wanted": wanted},
                (
                    Offer(
                        "raise the plates to {wanted:length}",
                        (Edit(f"vessels.{result.vessel.id}.baffles.gap", wanted),),
                        "",
                        {"wanted": wanted},
                    ),
                ),
            )
