"""Levels, sumps and power cuts: rules U."""

from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation, VesselResult
from bathys.network.rest import joins_level
from bathys.parts.practice import LEAST_COVER
from bathys.parts.rounding import mark_below
from bathys.plan.naming import named
from bathys.rules.bore_offers import wider_bores
from bathys.rules.filling import enlarge, fill, fill_needed
from bathys.rules.registry import LITRE_AN_HOUR, RULES, Finding, Offer, Rule, rule
from bathys.simulation import PumpedBedLoop

__all__: list[str] = []

_HAIR = 1e-4  # so far over a rim a level is no overflow [m]


def _over_rim(evaluation: Evaluation, result: VesselResult) -> float:
    """How far a vessel that takes up what is left over would stand over its rim, which the balance
    does not know of; with pumps on a timer counted for the time they run [m]."""
    vessel = result.vessel
    stands = min(result.levels.low, evaluation.mean.levels[vessel.id])
    return stands - vessel.floor_height - vessel.shape.height


@rule(
    Rule(
        "U0",
        "Inflow and outflow balance",
        "A vessel that gets more water than its outlets can carry overflows.",
        "derived",
    )
)
def _passes_on(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        vessel = result.vessel
        bed = evaluation.bed(vessel.id)
        if result.spill > LITRE_AN_HOUR and (bed is None or bed.cycle.verdict != "overflows"):
            yield Finding(
                data,
                "runs_over",
                "fault",
                vessel.id,
                f"{named(vessel)} overflows: "
                "{spill:flow} of the {inflow:flow} inflow "
                "has no other way out.",
                "Give it a larger or lower outlet, or less water.",
                {"spill": result.spill, "inflow": result.inflow},
            )
        elif (over := _over_rim(evaluation, result)) > _HAIR:
            yield Finding(
                data,
                "level_over_rim",
                "fault",
                vessel.id,
                f"{named(vessel)} overflows: with the pumps running its water would be "
                "{over:length} over its rim.",
                "Fill the vessels of its loop lower, or make it larger.",
                {"over": over},
                fill(evaluation, vessel, -(over + vessel.freeboard)),
            )
        elif -result.gain <= _fresh(evaluation, vessel.id) and result.gain < 0.0:
            continue  # a float valve makes up for what leaves
        elif abs(result.gain) > 0.01 * max(result.inflow, LITRE_AN_HOUR * 100.0):
            told = (
                "gets {gain:flow} more than it gives and fills up"
                if result.gain > 0.0
                else ("gives {gain:flow} more than it gets and runs dry")
            )
            yield Finding(
                data,
                "gains_or_loses",
                "fault",
                vessel.id,
                f"{named(vessel)} {told}.",
                "Lead the water back to where it is pumped from.",
                {"gain": abs(result.gain)},
            )


def _fresh(evaluation: Evaluation, vessel: str) -> float:
    """What the float valves of a vessel let in while its pumps have water [m³/s]."""
    plan = evaluation.plan
    needed = max(
        (p.inlet_height + RULES["U1"].limits["cover"] for p in plan.pumps if p.stands_in == vessel),
        default=0.0,
    )
    return sum(t.lets_in for t in plan.float_valves if t.stands_in == vessel and t.level >= needed)


@rule(
    Rule(
        "U1",
        "Water over the pump",
        "A pump that sucks air stops pumping and wears out.",
        "common practice",
        limits={"cover": LEAST_COVER},
    )
)
def _cover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for pump in evaluation.plan.pumps:
        result = evaluation.vessels[pump.stands_in]
        inlet = result.vessel.floor_height + pump.inlet_height
        cover = result.levels.low - inlet
        if cover < data.limits["cover"] - 1e-9:
            more = fill_needed(evaluation, result.vessel, inlet + data.limits["cover"])
            rest = result.levels.at_rest - result.vessel.floor_height
            fits = rest + more <= result.vessel.shape.height - result.vessel.freeboard + 1e-6
            yield Finding(
                data,
                "pump_uncovered",
                "fault" if cover <= 1e-6 else "warning",
                pump.id,
                f"At its lowest {named(result.vessel)} leaves "
                "{cover:length} of water over the "
                "pump’s inlet; it needs {want:length}.",
                "Fill it {more:length} higher, make it larger, or set the pump lower."
                if fits
                else "It is too small to be filled high enough: make it larger, or set the pump "
                "lower.",
                {"cover": max(cover, 0.0), "want": data.limits["cover"], "more": more},
                fill(evaluation, result.vessel, more)
                if fits
                else enlarge(evaluation, result.vessel, inlet + data.limits["cover"]),
            )


@rule(
    Rule(
        "U2",
        "Room for water that returns",
        "In a power cut the beds drain into the tank.",
        "derived",
    )
)
def _drain_back(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    outages = {
        b.loop.tank.id: b.outages for b in evaluation.beds if isinstance(b.loop, PumpedBedLoop)
    }
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        result = evaluation.vessels[closer]
        vessel = result.vessel
        ends = outages.get(closer, ())
        spilled = max((o.spilled for o in ends), default=0.0)
        top = max((o.tank_level for o in ends), default=result.levels.at_rest)
        depth, rim = top - vessel.floor_height, vessel.shape.height
        keep = rim - vessel.freeboard
        if spilled > 1e-6:
            less = spilled / result.area + vessel.freeboard
            yield Finding(
                data,
                "power_cut_spills",
                "fault",
                vessel.id,
                f"A power cut spills {{spilled:volume}} over the rim of {named(vessel)}.",
                "Fill the tank {less:length} lower.",
                {"spilled": spilled, "less": less},
                fill(evaluation, vessel, -less),
            )
        elif depth > keep + 1e-6:
            yield Finding(
                data,
                "power_cut_near_rim",
                "warning",
                vessel.id,
                f"A power cut raises {named(vessel)} to "
                "{room:length} below its rim; "
                "{keep:length} of freeboard was asked for.",
                "Fill the tank {less:length} lower.",
                {"room": rim - depth, "keep": vessel.freeboard, "less": depth - keep},
                fill(evaluation, vessel, keep - depth),
            )


@rule(
    Rule(
        "U10",
        "Joined vessels stand level",
        "A narrow pipe between two sumps leaves the pumped one short while the other is full.",
        "common practice",
        limits={"most": 0.03},
    )
)
def _twins(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, now = evaluation.plan, evaluation.balance
    for run in plan.runs:
        if not joins_level(now.layout, run, now.rest_levels):
            continue
        one, two = run.source, run.target
        apart = abs(now.levels[one] - now.levels[two])
        flow = abs(evaluation.runs[run.id].flow)
        if apart > data.limits["most"]:
            yield Finding(
                data,
                "twins_apart",
                "warning",
                run.id,
                f"{named(plan.vessel(one))} and {named(plan.vessel(two))} stand "
                "{apart:length} "
                f"apart: {named(run)} passes "
                "{flow:flow} between them.",
                "Join them by a wider or a shorter pipe.",
                {"apart": apart, "flow": flow},
                wider_bores(run, f"{one}.low"),
            )


@rule(
    Rule(
        "U6",
        "Room over the water",
        "Spray, roots and a slow start need dry wall over the water.",
        "common practice",
    )
)
def _freeboard(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    closers = set(evaluation.balance.closing.values())
    for result in evaluation.vessels.values():
        vessel = result.vessel
        bed = evaluation.bed(vessel.id)
        room = vessel.floor_height + vessel.shape.height - result.levels.high
        runs_over = result.spill > 0.0 or (bed is not None and bed.cycle.verdict == "overflows")
        if vessel.id in closers or runs_over or room >= vessel.freeboard - 1e-9:
            continue
        less = vessel.freeboard - room
        yield Finding(
            data,
            "little_freeboard",
            "warning",
            vessel.id,
            "The water is {room:length} below the rim of "
            f"{named(vessel)}; "
            "{keep:length} of freeboard was asked for.",
            "Lower its outlet by {less:length}.",
            {"room": room, "keep": vessel.freeboard, "less": less},
            _lower_outlet(evaluation, vessel.id, less),
        )


def _lower_outlet(evaluation: Evaluation, vessel: str, by: float) -> tuple[Offer, ...]:
    plan = evaluation.plan
    ways = [(g, f) for g in ("siphons", "outlets") for f in ("rim_height", "crest_height")]
    for group, field in ways:
        for part in getattr(plan, group):
            now = type(part).model_fields.get(field) and getattr(part, field)
            if part.stands_in == vessel and now and now > by:
                lower = mark_below(now - by)
                edit = Edit(f"{group}.{part.id}.{field}", lower)
                label = f"set {named(part)} {{by:length}} lower"
                return (Offer(label, (edit,), figures={"by": now - lower}),)
    return ()
