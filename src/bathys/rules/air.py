"""Air for the fish, and how long they have oxygen without: rules N8 to N10, N16, N17 and N19."""

from collections.abc import Iterator
from functools import partial

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.parts.media import CARRIERS
from bathys.parts.practice import CARRIERS_TUMBLE
from bathys.parts.rounding import mark_above, mark_below
from bathys.physics.airlift import AirliftCurve
from bathys.plan.naming import named
from bathys.plan.vessel import Vessel
from bathys.quality.air import air_flows, air_shares
from bathys.quality.survival import Bridge, Survival, about, bridge_of, outlive, survivals_of
from bathys.rules.living import more_air, tanks_with_fish, water_told
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_HOUR = 3600.0
_NEARLY = 0.95  # as much air as water, by the rule of thumb


@rule(
    Rule(
        "N8",
        "Air by the hour",
        "A rule of thumb: as much air an hour as the tank holds water.",
        "common practice",
    )
)
def _air(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for tank, _ in tanks_with_fish(evaluation):
        if _as_much_as_water(evaluation, tank.vessel.id):
            continue
        air, volume = _air_an_hour(evaluation, tank.vessel.id)
        yield Finding(
            data,
            "little_air",
            "note",
            tank.vessel.id,
            f"{named(tank.vessel)} holds {{water:volume}} and gets {{air:volume}} of air an hour; "
            "as much air as water is the rule of thumb.",
            "An air pump on a battery goes on when the power fails; moving water stops.",
            {"water": volume, "air": air},
            partial(more_air, evaluation, tank.vessel.id, _as_much_as_water),
        )


def _air_an_hour(evaluation: Evaluation, tank: str) -> tuple[float, float]:
    """Free air that a tank's stones let out in an hour, and its water [m³]."""
    flows = air_flows(evaluation)
    stones = (a for a in evaluation.plan.air if a.stands_in == tank)
    return _HOUR * sum(flows[a.id] for a in stones), evaluation.vessels[tank].volume


def _as_much_as_water(evaluation: Evaluation, tank: str) -> bool:
    air, volume = _air_an_hour(evaluation, tank)
    return air >= _NEARLY * volume


@rule(
    Rule(
        "N9",
        "Air reaches the deepest stone",
        "A label’s flow holds at no depth; air takes the easiest way, to the shallowest stone.",
        "derived",
    )
)
def _reaches(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for share in air_shares(evaluation):
        for id_, flow in share.flows.items():
            if flow > 1e-8:
                continue
            stone, pump = plan.part(id_), plan.part(share.pump)
            too_weak = share.asked[id_] >= pump.most_pressure
            others = [a for a in plan.air if a.fed_by == pump.id and share.flows[a.id] > 1e-8]
            offers: tuple[Offer, ...] = ()
            if not too_weak and others:
                edits = [
                    Edit(f"air.{a.id}.valve_open", max(round(0.3 * a.valve_open, 3), 0.02))
                    for a in others
                ]
                offers = (Offer("turn the other air valves down to a third", tuple(edits)),)
            yield Finding(
                data,
                "stone_gets_no_air",
                "fault" if too_weak else "warning",
                id_,
                f"No air comes out of {named(stone)}: it asks for {{asked:pressure}}, and "
                f"{named(pump)} gives "
                + ("{most:pressure} at the most." if too_weak else "{now:pressure} now."),
                "Hang it higher, or take a pump for more pressure."
                if too_weak
                else "Turn down the valves of the others, or hang it higher.",
                {
                    "asked": share.asked[id_],
                    "most": pump.most_pressure,
                    "now": share.pressure,
                },
                offers,
            )


@rule(
    Rule(
        "N10",
        "Oxygen in a power cut",
        "Without water and air fish live on what the water holds.",
        "derived",
        limits={"short": 1800.0, "some": 7200.0},
    )
)
def _power_cut(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    water = water_told(evaluation)
    if water is None:
        return
    cut, bridge = evaluation.plan.brief.power_cut, bridge_of(evaluation)
    for row in survivals_of(evaluation, water):
        if row.neither is None or row.neither <= 0.0:
            continue
        tank = evaluation.plan.vessel(row.vessel)
        if cut:
            if not outlive([row], cut) and bridge is not None:
                yield _bridged(data, row, tank, bridge)
            continue
        if row.neither >= data.limits["some"]:
            continue
        yield Finding(
            data,
            "oxygen_in_a_cut",
            "warning" if row.neither < data.limits["short"] else "note",
            row.vessel,
            f"If the power fails, {named(tank)} has oxygen for {{lasts:time}}, and for less just "
            "after a meal.",
            "An air pump on a battery, or one that starts by itself, bridges it.",
            {"lasts": about(row.neither)},
        )


def _bridged(data: Rule, row: Survival, tank: Vessel, bridge: Bridge) -> Finding:
    """Oxygen that does not surely last as long as the builder's longest power cut."""
    return Finding(
        data,
        "oxygen_in_your_cut",
        "warning" if (row.neither or 0.0) < data.limits["short"] else "note",
        row.vessel,
        f"If the power fails, {named(tank)} has oxygen for {{lasts:time}}; your longest power cut "
        "is {cut:hours}.",
        "A 12 V battery that keeps {watts:power} going for so long holds {lead:charge} of "
        "lead-acid, or {lithium:charge} of lithium.",
        {
            "lasts": about(row.neither or 0.0),
            "cut": bridge.cut,
            "watts": bridge.watts,
            "lead": bridge.lead,
            "lithium": bridge.lithium,
        },
    )


@rule(
    Rule(
        "N16",
        "Airlift deep enough",
        "Air lifts water only from well under it.",
        "common practice",
        limits={"least": 0.6},
    )
)
def _airlift(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        law = duty.pump.curve.law
        lift = max((d.lift for d in duty.deliveries), default=0.0)
        if not isinstance(law, AirliftCurve) or lift <= 0.0:
            continue
        share = law.submergence / (law.submergence + lift)
        if share >= data.limits["least"]:
            continue
        wanted = mark_above(data.limits["least"] / (1.0 - data.limits["least"]) * lift)
        yield Finding(
            data,
            "airlift_shallow",
            "warning",
            duty.pump.id,
            f"The air of {named(duty.pump)} goes in {{share:percent}} of the way up to where it "
            "pours out; {least:percent} is the least.",
            "Let the air in {wanted:length} under the water, or lift less.",
            {"share": share, "wanted": wanted, **data.limits},
            (
                Offer(
                    "let the air in {wanted:length} under the water",
                    (Edit(f"pumps.{duty.pump.id}.curve.submergence", wanted),),
                    "",
                    {"wanted": wanted},
                ),
            ),
        )


@rule(
    Rule(
        "N17",
        "Airlift within its water",
        "Air cannot be let in deeper than the water stands.",
        "derived",
    )
)
def _airlift_deep(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for pump in evaluation.plan.pumps:
        law, result = pump.curve.law, evaluation.vessels[pump.stands_in]
        depth = result.levels.low - result.vessel.floor_height
        if not isinstance(law, AirliftCurve) or law.submergence <= depth:
            continue
        wanted = mark_below(depth)
        yield Finding(
            data,
            "airlift_too_deep",
            "fault",
            pump.id,
            f"The air of {named(pump)} is said to go in {{told:length}} under the water, and "
            f"{named(result.vessel)} is {{depth:length}} deep at its lowest.",
            "Let it in higher, or give the airlift a deeper pipe of its own.",
            {"told": law.submergence, "depth": depth},
            (
                Offer(
                    "let the air in {wanted:length} under the water",
                    (Edit(f"pumps.{pump.id}.curve.submergence", wanted),),
                    "",
                    {"wanted": wanted},
                ),
            )
            if wanted > 0.0
            else (),
        )


@rule(
    Rule(
        "N19",
        "Carriers tumble",
        "Carriers that lie still clog, and only their outer ones work.",
        "common practice",
        limits={"least": CARRIERS_TUMBLE},
    )
)
def _tumbled(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, flows = evaluation.plan, air_flows(evaluation)
    for vessel in plan.vessels:
        if vessel.carriers is None or not CARRIERS[vessel.carriers.kind].is_moving:
            continue
        air = sum(flows[a.id] for a in plan.air if a.stands_in == vessel.id)
        wanted = data.limits["least"] * vessel.shape.footprint
        if air >= 0.95 * wanted:
            continue
        yield Finding(
            data,
            "carriers_lie_still",
            "note",
            vessel.id,
            f"{named(vessel)} gets {{air:flow}} of air; carriers tumble from about {{wanted:flow}} "
            "on, over such a floor.",
            "Give it more air, a cone to its floor, or carriers that stand still.",
            {"air": air, "wanted": wanted},
        )
