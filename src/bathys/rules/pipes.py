"""Pipes and drains: rules P."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.edits.valves import throttle
from bathys.evaluation import Evaluation, RunResult
from bathys.network import stops_backflow
from bathys.network.runs import start_height
from bathys.parts.rounding import mark_above
from bathys.plan.naming import named
from bathys.plan.way_out import Siphon
from bathys.rules.bore_offers import wider
from bathys.rules.registry import Finding, Offer, Rule, rule
from bathys.sizing import smallest_drain, smallest_pressed
from bathys.vessels import storage_of

__all__: list[str] = []

_LEAST_BACK = 1e-6  # less than a cubic centimetre is none [m³]


@rule(
    Rule(
        "P1",
        "Velocity in pressure pipe",
        "Faster water wastes the pump’s head; far slower pipe costs more than it saves.",
        "common practice",
        limits={"high": 1.5, "most": 2.0},
    )
)
def _velocity(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.runs.values():
        if result.gravity is not None or result.velocity <= data.limits["high"]:
            continue
        run = result.run
        offers = wider(run, smallest_pressed(run, abs(result.flow)), "velocity")
        yield Finding(
            data,
            "too_fast",
            "warning" if result.velocity > data.limits["most"] else "note",
            run.id,
            f"Water runs at {{speed:speed}} in {named(run)}; {{high:speed}} is the usual most.",
            "A larger bore costs less head." if offers else "Throttle it less, or split the flow.",
            {"speed": result.velocity, "high": data.limits["high"]},
            offers,
        )


def _carries_solids(evaluation: Evaluation, result: RunResult) -> bool:
    """From a fish tank to what settles or filters: the only lines that carry solids."""
    plan, run = evaluation.plan, result.run
    source, end = plan.owner_of(run.start), plan.owner_of(run.end)
    if result.gravity is None or source is None or not plan.vessel(source).use.keeps_fish:
        return False
    return end is None or not plan.vessel(end).use.keeps_fish


@rule(
    Rule(
        "P2",
        "Velocity in lines that carry solids",
        "Slower than this, waste settles in the pipe.",
        "common practice",
        limits={"least": 0.3},
    )
)
def _solids(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.runs.values():
        if not _carries_solids(evaluation, result) or result.flow <= 0.0:
            continue
        fill = result.gravity.fill if result.gravity is not None else 1.0
        speed = result.velocity
        if speed < data.limits["least"]:
            yield Finding(
                data,
                "too_slow_for_solids",
                "note",
                result.run.id,
                f"{named(result.run)} carries solids at "
                "{speed:speed}, {fill:percent} full; "
                "below {least:speed} they settle in it.",
                "A smaller bore, a steeper fall or more flow keeps it clean; else fit a clean-out.",
                {"speed": speed, "fill": fill, **data.limits},
            )


@rule(
    Rule(
        "P3",
        "Drains fall and breathe",
        "A drain that runs more than half full carries no air over its water and gulps.",
        "common practice",
        "plumbing practice; check the local code",
        limits={"slope": 0.25 / 12.0, "fill": 0.5, "slack": 0.002},
    )
)
def _drains(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    peaks = _siphon_peaks(evaluation)
    for result in evaluation.runs.values():
        gravity, run = result.gravity, result.run
        if gravity is None or gravity.is_level or gravity.is_drowned or result.flow <= 0.0:
            continue
        if isinstance(evaluation.plan.part(run.source), Siphon):
            continue  # a tail is meant to run full
        peak = max(result.flow, peaks.get(run.id, 0.0))
        offers = wider(run, smallest_drain(run, peak, gravity.slope), "fill")
        if peak > max(gravity.capacity, result.flow):
            yield Finding(
                data,
                "backs_up",
                "warning",
                run.id,
                f"{named(run)} backs up when a siphon starts: it gets "
                "{peak:flow} then, and at "
                "{most:flow} the water upstream is higher than it should be.",
                "Give it a larger bore or more fall.",
                {"peak": peak, "most": gravity.capacity},
                offers,
            )
        elif peak > gravity.half_flow and gravity.slope > 0.0:
            yield Finding(
                data,
                "over_half_full",
                "warning" if gravity.fill >= 1.0 else "note",
                run.id,
                f"{named(run)} carries up to "
                "{peak:flow}, more than the {half:flow} that half "
                "fills it at a fall of {slope:percent}.",
                "Half full leaves room for air. A larger bore or more fall gives it.",
                {"peak": peak, "half": gravity.half_flow, "slope": gravity.slope},
                offers,
            )
        elif gravity.slope < data.limits["slope"] - data.limits["slack"]:
            fall = data.limits["slope"] * run.level_length
            yield Finding(
                data,
                "too_little_fall",
                "note",
                run.id,
                f"{named(run)} falls "
                "{slope:percent}; drains need {want:percent}, a quarter "
                "inch in a foot.",
                "Over its length that is {fall:length} of fall.",
                {"slope": gravity.slope, "want": data.limits["slope"], "fall": fall},
            )


def _siphon_peaks(evaluation: Evaluation) -> dict[str, float]:
    """Greatest flow in drains that siphons empty into: one siphon at its peak, the rest as they
    mean [m³/s]."""
    plan = evaluation.plan
    peaks: dict[str, float] = {}
    for bed in evaluation.beds:
        tail = plan.run_of(bed.siphon)
        place = tail.end if tail is not None else ""
        passed: set[str] = set()
        while plan.group_of(place) == "junctions" and place not in passed:
            passed.add(place)  # drains may be led in a ring
            run = next(iter(plan.runs_from(place)), None)
            if run is None or tail is None:
                break
            others = evaluation.runs[run.id].flow - evaluation.runs[tail.id].flow
            here = bed.cycle.peak_flow + max(others, 0.0)
            peaks[run.id] = max(peaks.get(run.id, 0.0), here)
            place = run.end
    return peaks


@rule(
    Rule(
        "P4",
        "Open tee on a tank’s overflow",
        "A closed overflow that falls below its own intake starts to siphon and empties the "
        "tank to that intake.",
        "derived",
    )
)
def _vents(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for outlet in evaluation.plan.outlets:
        run = evaluation.plan.run_of(outlet)
        if not outlet.is_closed or run is None:
            continue
        vessel = evaluation.plan.vessel(outlet.stands_in)
        end = evaluation.plan.elevation(run.end) or 0.0
        foot = max(outlet.draws_to, end - vessel.floor_height)
        if foot >= outlet.spills_from:
            continue
        storage = storage_of(evaluation.plan, vessel)
        lost = float(storage.volume(outlet.spills_from) - storage.volume(foot))
        yield Finding(
            data,
            "no_open_tee",
            "fault",
            outlet.id,
            f"{named(outlet)} has no open tee: once it runs full it siphons, and can draw "
            f"{named(vessel)} down to "
            "{foot:length} over its floor, {lost:volume} of its water.",
            "Put a tee with an open top over the crest.",
            {"foot": foot, "lost": lost},
            (Offer("put an open tee on it", (Edit(f"outlets.{outlet.id}.vented", True),)),),
        )


@rule(
    Rule(
        "P5",
        "Returns end above water",
        "An outlet under water siphons back through the stopped pump.",
        "derived",
    )
)
def _drowned_return(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for delivery in evaluation.deliveries:
        run = evaluation.plan.part(delivery.run)
        pump = evaluation.plan.part(delivery.pump)
        result = evaluation.vessels[delivery.vessel]
        port = evaluation.plan.port(delivery.end)
        way = [evaluation.plan.part(r) for r in delivery.path]
        assert port is not None  # noqa: S101 - deliveries end at ports
        high = result.levels.high - result.vessel.floor_height
        if any(stops_backflow(r) for r in way) or port.height >= high:
            continue
        own = evaluation.plan.vessel(pump.stands_in)
        if own.id == result.vessel.id:
            continue  # a bypass back into the same water
        storage = storage_of(evaluation.plan, result.vessel)
        rest = result.levels.at_rest - result.vessel.floor_height
        bed = evaluation.bed(result.vessel.id)
        back = float(storage.volume(max(rest, port.height)) - storage.volume(port.height))
        if bed is not None:
            # A bed that had not started keeps its water up to the rim, and loses that.
            back = float(storage.volume(bed.loop.built.rim) - storage.volume(port.height))
            back = max([back, *(o.siphoned_back for o in bed.outages)])
        fittings = [f.model_dump(mode="json") for f in run.fittings]
        raised = min(mark_above(high + result.vessel.freeboard), result.vessel.shape.height)
        yield Finding(
            data,
            "drowned_return",
            "fault" if back > _LEAST_BACK else "warning",
            run.id,
            f"{named(run)} ends "
            "{deep:length} under water in "
            f"{named(result.vessel)}; when the pump stops, "
            + (
                "{back:volume} runs back through it."
                if back > _LEAST_BACK
                else "what stands over its end may run back through it."
            ),
            "End it above {level:length} over the floor, drill an air hole just above the water, "
            "or fit a check valve.",
            {"deep": high - port.height, "back": back, "level": high},
            (
                Offer(
                    "end it {at:length} over the floor",
                    (Edit(f"vessels.{result.vessel.id}.ports.{port.name}.height", raised),),
                    f"{delivery.pump}.flow",
                    {"at": raised},
                ),
                Offer(
                    "drill an air hole above the water",
                    (Edit(f"runs.{run.id}.air_hole", value=True),),
                    f"{delivery.pump}.flow",
                ),
                Offer(
                    "fit a check valve",
                    (
                        Edit(
                            f"runs.{run.id}.fittings",
                            [*fittings, {"kind": "swing_check", "count": 1}],
                        ),
                    ),
                    f"{delivery.pump}.flow",
                ),
            ),
        )


@rule(
    Rule(
        "P9",
        "Drains run downhill",
        "A drain that rises on its way holds water and sludge, and "
        "carries nothing until the water upstream stands over its highest point.",
        "derived",
        limits={"rise": 0.01},
    )
)
def _uphill(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, now = evaluation.plan, evaluation.balance
    for result in evaluation.runs.values():
        run = result.run
        source = plan.part(run.source)
        if result.gravity is None or now.layout.lines[run.id].shut or (isinstance(source, Siphon)):
            continue  # of a siphon's tail B4 speaks
        begin, end = start_height(plan, run), plan.elevation(run.end) or 0.0
        rise = end - begin
        node = run.target
        is_under = now.levels.get(node, -math.inf) > end and (
            now.levels.get(plan.owner_of(run.start) or run.start, -math.inf) > end
        )
        if rise <= data.limits["rise"] or is_under:
            continue
        there = named(plan.part(node))
        yield Finding(
            data,
            "uphill",
            "warning",
            run.id,
            f"{named(run)} runs uphill: from {named(source)} to {there} it rises {{rise:length}}.",
            f"Lower its end at {there} by {{rise:length}} or more, or raise where it begins.",
            {"rise": rise},
        )


@rule(
    Rule(
        "P6",
        "A valve for each bed",
        "Without one, no bed can be trimmed or shut for work.",
        "common practice",
    )
)
def _valves(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        branches = [d for d in duty.deliveries if len(duty.deliveries) > 1]
        for delivery in branches:
            # The way from the last tee on is the bed's own.
            own = [r for r in delivery.path if sum(r in b.path for b in branches) == 1]
            bare = all(evaluation.plan.part(r).valve is None for r in own)
            if bare and evaluation.plan.vessel(delivery.vessel).use.floods:
                run = evaluation.plan.part(delivery.run)
                there = named(evaluation.plan.vessel(delivery.vessel))
                edit = Edit(f"runs.{run.id}.valve", throttle(0.0))
                yield Finding(
                    data,
                    "no_valve",
                    "note",
                    run.id,
                    f"{named(run)} has no valve of its own, so {there} takes what the "
                    "pipes happen to give it.",
                    "Fit a ball valve in it.",
                    offers=(Offer("fit a ball valve", (edit,)),),
                )


@rule(
    Rule(
        "P10",
        "Holes of a spray bar share evenly",
        "With more hole than pipe, the far end of the bar gets most of the water.",
        "derived",
        limits={"share": 0.1},
    )
)
def _even(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for run in evaluation.plan.runs:
        if run.ends_in is None:
            continue
        uneven = run.ends_in.unevenness(run.bore.inside)
        if uneven is not None and uneven > data.limits["share"]:
            yield Finding(
                data,
                "uneven",
                "note",
                run.id,
                f"The first hole at the end of {named(run)} gives "
                "{uneven:percent} less than the last.",
                "Drill fewer or smaller holes, together less than 0.7 of the pipe’s area, or use a "
                "wider pipe.",
                {"uneven": uneven},
            )
