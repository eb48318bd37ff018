"""How settlers are sized and built: rules D1, D2, D4 to D6, D8 and D20."""

import math
from collections.abc import Iterator
from contextlib import suppress
from functools import partial

from bathys.edits import Edit, EditRefused
from bathys.evaluation import Evaluation
from bathys.parts.practice import (
    OUTLET_CALM,
    SETTLER_RATE,
    SETTLER_RETENTION,
    SETTLER_USUAL,
)
from bathys.parts.rounding import mark_above, mark_below
from bathys.plan.naming import named
from bathys.plan.vessel import Vessel
from bathys.quality import SettlerResult, solids_of
from bathys.quality.settler_options import OWN, pair_edits, settler_edits, smallest_that_does
from bathys.quality.settling import OUTLET_DRILL, OUTLET_UNDER, calm_holes
from bathys.quality.solids_lines import SETTLER_FALL, falls_to
from bathys.rules.registry import LITRE_AN_HOUR, Finding, Offer, Rule, rule

__all__: list[str] = []

_MOST_HOLES = 400


def _settlers(evaluation: Evaluation) -> tuple[SettlerResult, ...]:
    return solids_of(evaluation).settlers


def _more_room(evaluation: Evaluation, vessel: Vessel) -> tuple[Offer, ...]:
    """A second one beside it, and the smallest container that does in its place."""
    offers, plan = [], evaluation.plan
    # What cannot be copied, such as one with a pump in it, is traded only.
    with suppress(EditRefused):
        second = tuple(pair_edits(plan, vessel.id, ())[0])
        offers.append(Offer(f"put a second {named(vessel)} beside it", second))
    option = smallest_that_does(evaluation, vessel)
    if option is not None:
        what = "build it" if option.container.key == OWN else "make it of “{container:words}”"
        offers.append(
            Offer(
                f"{what}: {option.settler.CHOICE}",
                tuple(settler_edits(plan, vessel.id, option)),
                "",
                {"container": option.container.name},
            )
        )
    return tuple(offers)


@rule(
    Rule(
        "D1",
        "Water stays in the settler",
        "Two minutes do for coarse waste; six or seven are usual, twelve to sixteen cautious.",
        "common practice",
        limits={"least": SETTLER_RETENTION, "usual": SETTLER_USUAL},
    )
)
def _stays(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        if result.vessel.job != "settler" or result.inflow <= LITRE_AN_HOUR:
            continue
        stays = result.volume / result.inflow
        if stays >= data.limits["usual"]:
            continue
        is_brief = stays < data.limits["least"]
        wanted = data.limits["usual"] * result.inflow
        yield Finding(
            data,
            "too_brief",
            "warning" if is_brief else "note",
            result.vessel.id,
            f"Water stays in {named(result.vessel)} for {{stays:time}}; "
            "{least:time} catch coarse waste alone, {usual:time} are usual.",
            "A vessel of {wanted:volume} holds it so long; or lead less through it, or two in "
            "parallel.",
            {"stays": stays, "wanted": wanted, **data.limits},
            partial(_more_room, evaluation, result.vessel) if is_brief else (),
        )


@rule(
    Rule(
        "D2",
        "Overflow rate of a settler",
        "Grains that fall slower than the water rises are carried on.",
        "published",
        "Davidson and Summerfelt 2005 (memory): 78 % caught at 3.1 mm/s in radial flow",
        limits={"rate": SETTLER_RATE},
    )
)
def _rate(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for settler in _settlers(evaluation):
        if not settler.is_fast:
            continue
        area = settler.flow / data.limits["rate"]
        yield Finding(
            data,
            "rises_too_fast",
            # One that is not told how it is built may catch more than a plain can.
            "warning" if settler.vessel.settler is not None else "note",
            settler.vessel.id,
            f"In {named(settler.vessel)} the water rises at {{rate:slow_speed}}; "
            "{most:slow_speed} is the most. It catches {caught:percent} of fresh waste "
            "({low:percent} to {high:percent}).",
            "Its open water should be {across:length} across, around the well or funnel, or two "
            "should share the flow.",
            {
                "rate": settler.rate,
                "most": data.limits["rate"],
                "caught": settler.caught,
                "low": settler.low,
                "high": settler.high,
                "across": math.sqrt(4.0 * area / math.pi),
            },
            partial(_more_room, evaluation, settler.vessel),
        )


@rule(
    Rule(
        "D4",
        "Outlet of a settler",
        "A fast outlet draws along what has not settled; many holes or a long ring are calm.",
        "common practice",
        limits={"calm": OUTLET_CALM, "most": 0.1},
    )
)
def _outlet(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for settler in _settlers(evaluation):
        inside, speed = settler.vessel.settler, settler.outlet_speed
        if inside is None or speed is None or speed <= data.limits["calm"]:
            continue
        is_fault = speed > data.limits["most"]
        wanted = calm_holes(settler.flow)
        depth = evaluation.vessels[settler.vessel.id].levels.low - settler.vessel.floor_height
        under = mark_below(depth - OUTLET_UNDER)
        height = min(max((r.height for r in inside.hole_rows), default=under), under)
        rows = [{"count": wanted, "diameter": OUTLET_DRILL, "height": height}]
        path = f"vessels.{settler.vessel.id}.settler"
        yield Finding(
            data,
            "outlet_fast",
            "fault" if is_fault else "note",
            settler.vessel.id,
            f"Water leaves {named(settler.vessel)} through its holes or slit at "
            "{speed:slow_speed}; {calm:slow_speed} is calm, over {most:slow_speed} stirs up what "
            "has settled.",
            "{count:count} holes of {drill:length} would be calm.",
            {"speed": speed, "count": float(wanted), "drill": OUTLET_DRILL, **data.limits},
            (
                Offer(
                    "drill {count:count} holes of {drill:length}",
                    (
                        Edit(f"{path}.hole_rows", rows),
                        Edit(f"{path}.slit_length", 0.0),
                        Edit(f"{path}.slit_gap", 0.0),
                    ),
                    "",
                    {"count": float(wanted), "drill": OUTLET_DRILL},
                ),
            )
            if wanted <= _MOST_HOLES and height > 0.0
            else (),
        )


@rule(
    Rule(
        "D5",
        "Fall from the tank to the settler",
        "Without a fall a settler that clogs a little backs up into the tank.",
        "common practice",
        limits={"fall": SETTLER_FALL},
    )
)
def _fall(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for settler in _settlers(evaluation):
        for way in falls_to(evaluation, settler.vessel.id):
            if way.deeper <= 0.0:
                continue
            deeper = mark_above(way.deeper)
            floor = settler.vessel.floor_height - deeper
            yield Finding(
                data,
                "little_fall",
                "warning",
                settler.vessel.id,
                f"The water in {named(settler.vessel)} stands {{fall:length}} below that in "
                f"{named(plan.vessel(way.tank))}; {{wanted:length}} is wanted.",
                "Set it {deeper:length} deeper, or raise the tank as much.",
                {"fall": way.fall, "wanted": data.limits["fall"], "deeper": deeper},
                (
                    Offer(
                        f"set {named(settler.vessel)} {{deeper:length}} deeper",
                        (Edit(f"vessels.{settler.vessel.id}.floor_height", floor),),
                        "",
                        {"deeper": deeper},
                    ),
                ),
            )


@rule(
    Rule(
        "D6",
        "Room for a surge",
        "A siphon or a gulp raises the water in a settler before it passes on.",
        "common practice",
        limits={"least": 0.075},
    )
)
def _surge(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for settler in _settlers(evaluation):
        level = evaluation.vessels[settler.vessel.id].levels.high
        room = settler.vessel.floor_height + settler.vessel.shape.height - level
        if 0.0 <= room < data.limits["least"]:
            yield Finding(
                data,
                "little_surge_room",
                "note",
                settler.vessel.id,
                f"{named(settler.vessel)} has {{room:length}} over its water; {{least:length}} to "
                "125 mm take a surge.",
                "Hold its outlet lower.",
                {"room": room, **data.limits},
            )


@rule(
    Rule(
        "D8",
        "A settler can be emptied",
        "Sludge that cannot be let out rots where it lies.",
        "common practice",
    )
)
def _drain(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for settler in _settlers(evaluation):
        inside = settler.vessel.settler
        if inside is not None and inside.drain_diameter <= 0.0:
            yield Finding(
                data,
                "no_drain",
                "warning",
                settler.vessel.id,
                f"{named(settler.vessel)} has no sludge drain.",
                "Fit a drain with a valve at its foot, 40 mm wide or more.",
                {},
                (
                    Offer(
                        "fit a drain of {bore:length}",
                        (Edit(f"vessels.{settler.vessel.id}.settler.drain_diameter", 0.05),),
                        "",
                        {"bore": 0.05},
                    ),
                ),
            )


@rule(
    Rule(
        "D20",
        "What leads water in and out of a settler lies under water",
        "Water that falls in stirs up what has settled; holes over the water pass none.",
        "common practice",
        limits={"under": OUTLET_UNDER},
    )
)
def _under_water(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for settler in _settlers(evaluation):
        inside, vessel = settler.vessel.settler, settler.vessel
        if inside is None:
            continue
        depth = evaluation.vessels[vessel.id].levels.low - vessel.floor_height
        wanted = mark_below(depth - data.limits["under"])
        path = f"vessels.{vessel.id}.settler"
        titles = type(inside).model_fields
        for field in inside.UNDER_WATER:
            height = float(getattr(inside, field))
            if height < depth:
                continue
            yield Finding(
                data,
                "over_the_water",
                "warning",
                vessel.id,
                f"{titles[field].title}: in {named(vessel)} it stands at {{height:length}}, and "
                "the water at {depth:length}.",
                "Set it under the water.",
                {"height": height, "depth": depth, "wanted": wanted},
                (
                    Offer(
                        "set it at {wanted:length}",
                        (Edit(f"{path}.{field}", wanted),),
                        "",
                        {"wanted": wanted},
                    ),
                )
                if wanted > 0.0
                else (),
            )
        high = max((row.height for row in inside.hole_rows), default=0.0)
        if high >= depth and wanted > 0.0:
            lower = high - wanted
            rows = [
                {**row.model_dump(), "height": round(max(row.height - lower, 0.01), 3)}
                for row in inside.hole_rows
            ]
            yield Finding(
                data,
                "holes_over_the_water",
                "warning",
                vessel.id,
                f"The outlet holes of {named(vessel)} lie at {{height:length}}, and its water "
                "stands at {depth:length}.",
                "Drill them under the water.",
                {"height": high, "depth": depth, "wanted": wanted},
                (
                    Offer(
                        "drill the upper row at {wanted:length}",
                        (Edit(f"{path}.hole_rows", rows),),
                        "",
                        {"wanted": wanted},
                    ),
                ),
            )
