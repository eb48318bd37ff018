"""Whether water gets where it should, and as much as was wanted: rules F6, F7 and F8."""

import math
from collections.abc import Iterator

import numpy as np

from bathys.edits.switches import can_set_start, start_at
from bathys.edits.valves import open_valve
from bathys.evaluation import Evaluation
from bathys.network import gravity_lines
from bathys.network.gravity_solver import flows_at_levels
from bathys.network.rest import crest_of
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.pumps import Pump
from bathys.plan.topology import reached
from bathys.plan.vessel import Vessel
from bathys.rules.registry import LITRE_AN_HOUR, Finding, Offer, Rule, rule
from bathys.vessels import storage_of

__all__: list[str] = []

_JUST = 1e-3  # a float may start a hair under its height [m]
Reason = tuple[str, str, tuple[Offer, ...]]


@rule(
    Rule(
        "F6",
        "Water arrives",
        "Without flow, what lives in a vessel dies.",
        "derived",
    )
)
def _reaches(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    if not any(plan.run_of(p) for p in plan.pumps):
        return  # nothing moves yet, which is told as such
    by_hand = {m.target for m in plan.moves}
    linked = {v for b in evaluation.beds for v in b.linked if b.cycle.mean_inflow > LITRE_AN_HOUR}
    told = by_hand | linked | _told_by_its_pump(evaluation)
    fed = _fed_for_good(evaluation)
    for result in evaluation.vessels.values():
        vessel = result.vessel
        if not vessel.use.wants_flow or vessel.id in fed or vessel.id in told:
            continue
        clocked = _clocked_way(plan, vessel.id)
        if clocked is not None:
            yield _by_the_clock(data, vessel, clocked)
            continue
        reason, hint, offers = _reason(evaluation, vessel, fed, set())
        what = (
            f"No water reaches {named(vessel)}"
            if result.inflow <= LITRE_AN_HOUR
            else f"Water reaches {named(vessel)} only until its source has run down"
        )
        yield Finding(
            data,
            "no_water_comes",
            "fault",
            vessel.id,
            f"{what}: {reason}.",
            hint,
            offers=offers,
        )


def _clocked_way(plan: Plan, vessel: str) -> Run | None:
    """A run whose valve a clock opens now and then, and whose water comes to a vessel."""
    for run in plan.runs:
        if not run.is_usually_shut:
            continue
        below = reached([run.target], lambda here: _below(plan, here))
        if vessel in below:
            return run
    return None


def _below(plan: Plan, place: str) -> list[str]:
    """Vessels and joints that water of a vessel or a joint runs to."""
    return [r.target for r in plan.runs if place in (r.start, plan.owner_of(r.start))]


def _by_the_clock(data: Rule, vessel: Vessel, run: Run) -> Finding:
    clock = run.opens_by
    assert clock is not None  # noqa: S101 - only asked of such runs
    return Finding(
        data,
        "comes_by_the_clock",
        "note",
        vessel.id,
        f"Water reaches {named(vessel)} only while the clock opens the valve on {named(run)}, "
        "{share:percent} of the time.",
        "The figures here are for a shut valve; what it does when it opens shows over time.",
        {"share": clock.share},
    )


def _fed_for_good(evaluation: Evaluation) -> set[str]:
    """Vessels to which water comes that a pump, a top-up or a transfer keeps sending."""
    plan = evaluation.plan
    ways: dict[str, list[str]] = {}
    for result in evaluation.runs.values():
        if abs(result.mean_flow) > LITRE_AN_HOUR:
            # A pump's outlet stands for itself: what its vessel holds does not come out by it.
            start, end = (
                p if plan.group_of(part_id(p)) == "pumps" else plan.owner_of(p) or p
                for p in (result.run.start, result.run.end)
            )
            one, two = (start, end) if result.mean_flow > 0.0 else (end, start)
            ways.setdefault(one, []).append(two)
    given = {t.stands_in for t in plan.top_ups} | {m.target for m in plan.moves if m.target}
    first = [*given, *(place for p in plan.pumps for place in ways.get(p.leads_from, ()))]
    known = evaluation.vessels
    every = reached(first, lambda place: ways.get(place, ()))
    return {v for v in every if v in known and known[v].inflow > LITRE_AN_HOUR}


def _told_by_its_pump(evaluation: Evaluation) -> set[str]:
    """Vessels of which rule F0 says why no water comes."""
    shut = evaluation.balance.layout.lines
    return {
        d.vessel
        for duty in evaluation.duties.values()
        for d in duty.deliveries
        if d.flow <= 1e-9
        and (len(duty.deliveries) == 1 or not any(shut[r].shut for r in d.path))
        and evaluation.vessels[d.vessel].inflow <= LITRE_AN_HOUR
    }


def _open_it(run: Run) -> tuple[Offer, ...]:
    return (Offer(f"open the valve on {named(run)}", (open_valve(run),), f"{run.id}.flow"),)


def _reason(evaluation: Evaluation, vessel: Vessel, fed: set[str], seen: set[str]) -> Reason:
    """Why no water comes to a vessel, told by the first way to it that says so."""
    plan = evaluation.plan
    seen.add(vessel.id)
    runs = [r for r in plan.runs if r.target == vessel.id]
    if not runs:
        return "no pipe leads to it", "Connect a run to it, or take it out of the plan.", ()
    for run in runs:
        found = _reason_of_run(evaluation, run, fed, seen)
        if found is not None:
            return found
    return (
        "the water takes another way or is too low to flow there",
        "Raise where its pipe begins, or lower where it ends.",
        (),
    )


def _reason_of_run(
    evaluation: Evaluation, run: Run, fed: set[str], seen: set[str]
) -> Reason | None:
    plan, lines = evaluation.plan, evaluation.balance.layout.lines
    if lines[run.id].shut:
        return f"the valve on {named(run)} is shut", "Open the valve.", _open_it(run)
    source = plan.part(run.source)
    if isinstance(source, Pump):
        return _reason_of_pump(evaluation, source)
    if plan.group_of(run.start) == "junctions":
        if run.start in seen:
            return None
        seen.add(run.start)
        above = plan.runs_to(run.start)
        if not above:
            return f"no water reaches {named(source)}", "Draw the run that is missing.", ()
        return next((f for r in above if (f := _reason_of_run(evaluation, r, fed, seen))), None)
    upper = plan.vessel(plan.owner_of(run.start) or "")
    if upper.id in seen:
        return None
    if upper.id not in fed and upper.use.wants_flow:
        reason, hint, offers = _reason(evaluation, upper, fed, seen)
        return f"none reaches {named(upper)} either, because {reason}", hint, offers
    gravity = evaluation.runs[run.id].gravity
    if gravity is None or gravity.head_over > 0.0:
        return None
    return (
        f"the water in {named(upper)} does not reach the pipe {named(run)}",
        f"Let {named(run)} begin lower, or close the ways by which {named(upper)} loses its water.",
        (),
    )


def _reason_of_pump(evaluation: Evaluation, pump: Pump) -> Reason | None:
    if evaluation.duties[pump.id].share <= 0.0:
        return f"{named(pump)} never runs", "See to what switches it.", ()
    if evaluation.duties[pump.id].flow <= LITRE_AN_HOUR:
        return f"{named(pump)} cannot lift water there", "Choose a pump with more lift.", ()
    return None


@rule(
    Rule(
        "F7",
        "Wanted flows",
        "The wanted flow and the real flow should agree.",
        "derived",
        limits={"share": 0.15},
    )
)
def _wanted(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for sign in (-1.0, 1.0):
        off = {
            r.run.id: r.flow / r.run.wanted_flow - 1.0
            for r in evaluation.runs.values()
            if r.run.wanted_flow is not None and not evaluation.balance.layout.lines[r.run.id].shut
        }
        missed = [id_ for id_, share in off.items() if sign * share > data.limits["share"]]
        if not missed:
            continue
        # Runs that are off alike are told together, by the one that is off most.
        missed.sort(key=lambda id_: -abs(off[id_]))
        worst, others = evaluation.runs[missed[0]], len(missed) - 1
        more = f" {others} more {'runs are' if others > 1 else 'run is'} off as well."
        also = more if others else ""
        yield Finding(
            data,
            "wanted_flow_missed",
            "warning" if sign < 0.0 else "note",
            worst.run.id,
            f"{named(worst.run)} carries "
            "{flow:flow} where {wanted:flow} is wanted, more than "
            f"{{share:percent}} off.{also}",
            "“Valve settings” finds settings; if none reaches it, look for "
            + ("a stronger pump or wider pipes." if sign < 0.0 else "a smaller pump."),
            {"flow": worst.flow, "wanted": worst.run.wanted_flow or 0.0, **data.limits},
        )


@rule(
    Rule(
        "F8",
        "The float starts its pump",
        "A float that the water never reaches starts "
        "nothing; one above the rim starts it too late.",
        "derived",
    )
)
def _floats(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for pump in plan.pumps:
        band = pump.band
        if band is None:
            continue
        vessel = plan.vessel(pump.stands_in)
        figures = {"on": band.starts, "rim": vessel.shape.height}
        if band.starts >= vessel.shape.height:
            lower = round(max(vessel.shape.height - max(vessel.freeboard, 0.02), 0.01), 3)
            yield Finding(
                data,
                "float_over_rim",
                "fault",
                pump.id,
                f"{named(pump)} starts only at "
                "{on:length}, and "
                f"{named(vessel)} runs over "
                "at {rim:length}.",
                "Set the float below the rim.",
                figures,
                (Offer("start it at {at:length}", (start_at(pump, lower),), "", {"at": lower}),)
                if lower > band.stops and can_set_start(pump)
                else (),
            )
        elif _highest_without(evaluation, pump) < band.starts - 1e-6:
            top = _highest_without(evaluation, pump)
            lower = round(top - 0.02, 3)
            yield Finding(
                data,
                "float_not_reached",
                "fault",
                pump.id,
                f"{named(pump)} never runs: it starts at "
                "{on:length}, and the water in "
                f"{named(vessel)} rises no higher than "
                "{top:length}.",
                "Set the float lower, or fill the vessel higher.",
                {**figures, "top": top},
                (Offer("start it at {at:length}", (start_at(pump, lower),), "", {"at": lower}),)
                if lower > band.stops and can_set_start(pump)
                else (),
            )
        elif (left := _left_once_still(evaluation, pump)) < band.starts - _JUST:
            yield Finding(
                data,
                "float_stops_for_good",
                "fault",
                pump.id,
                f"{named(pump)} stops for good: it starts at "
                "{on:length}, and once the others "
                f"stand full to their outlets {named(vessel)} gets back no more than "
                "{left:length}.",
                "Fill the vessels higher, or set the float lower.",
                {**figures, "left": left},
            )


def _left_once_still(evaluation: Evaluation, pump: Pump) -> float:
    """How high the water comes back over the floor of a float pump's vessel once its other
    vessels stand at their outlets [m]; without end where other water comes as well."""
    plan, now = evaluation.plan, evaluation.balance
    closer = now.closing.get(pump.stands_in)
    loop = {v for v, c in now.closing.items() if c == closer}
    given = {t.stands_in for t in plan.float_valves} | {m.target for m in plan.moves}
    if closer is None or given & loop or sum(p.stands_in in loop for p in plan.pumps) > 1:
        return math.inf
    total = held = 0.0
    for vessel in map(plan.vessel, loop):
        storage, floor = storage_of(plan, vessel), vessel.floor_height
        rest = now.rest_levels[vessel.id]
        total += storage.volume_at(rest - floor)
        ways = [r for r in now.layout.drained_by(vessel.id) if not now.layout.lines[r.id].shut]
        if vessel.id != pump.stands_in:
            # A siphon draws its bed down again, so that it counts as it rests.
            is_drawn = evaluation.bed(vessel.id) is not None
            stands = [] if is_drawn else [crest_of(now.layout, r) for r in ways]
            held += storage.volume_at(max(rest, min(stands, default=rest)) - floor)
    own = plan.vessel(pump.stands_in)
    return float(storage_of(plan, own).level_at(max(total - held, 0.0)))


def _arriving(evaluation: Evaluation, pump: Pump) -> float:
    """What comes to a pump's vessel other than by the pump itself [m³/s]."""
    now = evaluation.balance
    own = {d.run for d in evaluation.duties[pump.id].deliveries}
    return sum(
        max(evaluation.runs[r.id].mean_flow, 0.0)
        for r in now.plan.runs
        if r.target == pump.stands_in and r.id not in own
    )


def _highest_without(evaluation: Evaluation, pump: Pump) -> float:
    """How high the water stands over the floor where a pump does not run [m]: at its fill, or
    where other ways out carry the inflow away."""
    vessel = evaluation.plan.vessel(pump.stands_in)
    rest = evaluation.vessels[vessel.id].levels.at_rest - vessel.floor_height
    comes = _arriving(evaluation, pump)
    if comes <= LITRE_AN_HOUR or evaluation.duties[pump.id].share <= 0.0:
        return rest
    rim = vessel.shape.height
    levels = np.linspace(rest, rim, 41)
    carried = np.zeros_like(levels)
    for row in gravity_lines(evaluation.balance.layout):
        if row.start == vessel.id and not row.backwards:
            down = evaluation.balance.levels.get(row.end or "", float("-inf"))
            carried += flows_at_levels(row, vessel.floor_height + levels, down)
    enough = np.flatnonzero(carried >= comes)
    return float(levels[enough[0]]) if enough.size else rim


@rule(
    Rule(
        "F9",
        "Water comes often enough by the clock",
        "Fish and bacteria need moving water; what stands for half a day goes bad.",
        "common practice",
        limits={"rest": 43200.0, "share": 0.01},
    )
)
def _rests(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        clock = duty.pump.clock
        if clock is None or not duty.deliveries:
            continue
        if clock.rests > data.limits["rest"] or clock.share < data.limits["share"]:
            yield Finding(
                data,
                "rests_too_long",
                "warning",
                duty.pump.id,
                f"{named(duty.pump)} rests for {{rest:time}} at a time, and runs "
                "{share:percent} of the time.",
                "Let it run more often, or see that what it feeds has water another way.",
                {"rest": clock.rests, "share": clock.share},
            )
