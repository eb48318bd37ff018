"""Findings on a resilience run: first start, running, power cuts, and what may fail."""

from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import CYCLE_DOUBT, ResilienceRun
from bathys.parts.practice import LEAST_COVER, TANK_KEEPS
from bathys.parts.rounding import mark_below
from bathys.plan import Plan
from bathys.plan.naming import named
from bathys.rules.failures import FAILURES
from bathys.rules.filling import fill, fill_needed
from bathys.rules.registry import Finding, Offer, Rule, dynamic_rule
from bathys.rules.tanks import tank_drains_by_itself
from bathys.scenarios.failures import FailureOutcome
from bathys.scenarios.power_cut import PowerCutTrial
from bathys.vessels import storage_of

__all__: list[str] = []

_LEAST_SPILL = 1e-4
_TOO_SMALL = (
    "It is too small: filled lower its pump runs dry, filled higher it overflows. Make it larger, "
    "or join another to it."
)
_LESS = 0.05  # so much lower a vessel that runs over is filled [m]
_HAND = 0.10  # hang a pump so far below the surface (common practice)


def _filled(
    resilience: ResilienceRun, vessel: str, level: float, wanted: float
) -> tuple[Offer, ...]:
    """Fill a vessel higher by what is missing between two heights over its floor, and by what the
    steady bound asks for."""
    evaluation = resilience.evaluation
    part = evaluation.plan.vessel(vessel)
    storage = storage_of(evaluation.plan, part)
    # A little more than the sum says: water that stands higher also swings a little further.
    more = 1.05 * (storage.volume_at(wanted) - storage.volume_at(level))
    rest = part.water_depth or 0.0
    by = storage.level_at(storage.volume_at(rest) + more) - rest + 0.002
    bound = fill_needed(evaluation, part, part.floor_height + wanted)
    offers = [*fill(evaluation, part, by), *(fill(evaluation, part, bound) if bound > by else ())]
    return tuple(offers)


@dynamic_rule(
    Rule(
        "U3",
        "The first start",
        "At switch-on, pipes and beds take water before any returns.",
        "derived",
        limits={"cover": LEAST_COVER},
    )
)
def _first_start(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    plan, found = resilience.evaluation.plan, resilience.periodic.through
    for pump in plan.pumps:
        if plan.run_of(pump) is None:
            continue
        floor = plan.vessel(pump.stands_in).floor_height
        low = float(found.level(pump.stands_in).min()) - floor
        usual = float(resilience.periodic.levels(pump.stands_in).min()) - floor
        cover, later = low - pump.inlet_height, usual - pump.inlet_height
        air = found.times_of("air", pump.id)
        first = [t for t in air if t < resilience.periodic.since]
        if not first and (cover >= data.limits["cover"] or later < cover + 0.01):
            continue  # what is always so is U1's
        name, vessel = named(pump), named(plan.vessel(pump.stands_in))
        when = first[0] if first else 0.0
        told = (
            f"On its first start {name} runs dry after "
            "{when:time}: "
            f"{vessel} empties faster than water returns."
            if first
            else f"On its first start {name} has only "
            "{cover:length} of water over its inlet; later "
            "it has {later:length}."
        )
        yield Finding(
            data,
            "first_start_air",
            "fault" if first else "note",
            pump.id,
            told,
            f"Fill {vessel} higher, or feed the beds one after the other when you start.",
            {"cover": max(cover, 0.0), "later": later, "when": when},
            _filled(resilience, pump.stands_in, max(low, 0.0), pump.inlet_height + LEAST_COVER),
        )


@dynamic_rule(
    Rule(
        "B6",
        "Drain and receiver take the peak",
        "A siphon that starts sends many times its inflow down the drain at once.",
        "derived",
    )
)
def _peaks(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    plan, found = resilience.evaluation.plan, resilience.periodic.through
    hours = found.times[-1] / 3600.0
    for vessel, lost in found.spills.items():
        part = plan.vessel(vessel)
        if lost < _LEAST_SPILL or resilience.evaluation.vessels[vessel].spill > 0.0:
            continue  # one that always runs over is told by U0
        yield Finding(
            data,
            "spills_while_running",
            "fault",
            vessel,
            f"{named(part)} overflows in normal operation: {{lost:volume}} in {{hours:time}}.",
            "Give it a larger outlet, more freeboard, or send less at once.",
            {"lost": lost, "hours": hours * 3600.0},
            fill(resilience.evaluation, part, -_LESS),
        )


@dynamic_rule(
    Rule("U15", "Its schedules, followed", "What a clock moves adds up over days.", "derived")
)
def _followed_on(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    found, plan = resilience.scheduled, resilience.evaluation.plan
    if found is None:
        return
    known = resilience.periodic.through
    days = float(found.times[-1])
    for vessel, lost in found.spills.items():
        if lost > _LEAST_SPILL and vessel not in known.spills:
            yield Finding(
                data,
                "spills_in_days",
                "fault",
                vessel,
                f"Over "
                "{days:time}, "
                f"{named(plan.vessel(vessel))} runs over after "
                "{when:time}: {lost:volume} in all.",
                "Check that its schedules add no more than goes out, or fit an overflow to a safe "
                "place.",
                {"days": days, "when": found.times_of("spills", vessel)[0], "lost": lost},
            )
    for pump in plan.pumps:
        first = found.times_of("air", pump.id)
        if first and not known.times_of("air", pump.id):
            yield Finding(
                data,
                "air_in_days",
                "fault",
                pump.id,
                f"Over {{days:time}}, {named(pump)} runs dry after {{when:time}}.",
                "Check that its schedules take no more than comes in.",
                {"days": days, "when": first[0]},
            )


@dynamic_rule(
    Rule(
        "B9",
        "It cycles in the run too",
        "A siphon that works by its window may be put off by the others on its pump.",
        "derived",
        limits={"doubt": CYCLE_DOUBT},
    )
)
def _cycles(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    for row in resilience.periodic.cycles:
        siphon = resilience.evaluation.plan.part(row.siphon)
        bed = resilience.evaluation.bed(siphon.stands_in)
        if bed is None or bed.cycle.verdict not in ("cycles", "slow", "uneven"):
            continue
        by_turns = bed.cycle.verdict == "uneven"
        if not resilience.periodic.through.times_of("starts", row.siphon):
            yield Finding(
                data,
                "never_started",
                "warning",
                row.siphon,
                f"{named(siphon)} did not start once while the plan was followed through time"
                + (
                    ": its water arrives at intervals, too little each time."
                    if by_turns
                    else ", though its window says it should."
                ),
                "Send more at a time, or more often."
                if by_turns
                else "Other beds take its water at the wrong moment; give it a little more.",
            )
        elif not resilience.periodic.through.times_of("breaks", row.siphon):
            yield Finding(
                data,
                "never_stopped",
                "warning",
                row.siphon,
                f"{named(siphon)} started and did not stop again while the plan was followed "
                "through time.",
                "Send less water at a time, or lengthen the tail.",
            )
        elif (
            row.period
            and bed.cycle.period
            and abs(row.period / bed.cycle.period - 1.0) > (data.limits["doubt"])
        ):
            yield Finding(
                data,
                "cycle_differs",
                "note",
                row.siphon,
                f"As its beds run together, {named(siphon)} starts every "
                "{period:time}; fed "
                "evenly it would every {even:time}.",
                "Go by the longer look: other beds on its pump take and give at their own times.",
                {"period": row.period, "even": bed.cycle.period},
            )
        elif row.hangs:
            yield Finding(
                data,
                "gurgles",
                "note",
                row.siphon,
                f"{named(siphon)} gurgles at its intake for a while before it stops.",
                "It will stop; slots or an air tube a little higher make it certain.",
            )


def _is_too_small(resilience: ResilienceRun, vessel: str) -> bool:
    """Whether a power cut makes a vessel run over and its pump draw air afterwards: neither a
    lower nor a higher fill fixes both."""
    plan = resilience.evaluation.plan
    spills = any(
        r.vessel == vessel and r.spilled > _LEAST_SPILL
        for d in resilience.trials
        for r in d.vessels
    )
    air = any(plan.part(p).stands_in == vessel for d in resilience.trials for p in d.restart.air)
    return spills and air


@dynamic_rule(
    Rule(
        "U7",
        "What a power cut does",
        "Pumps stop; siphons, and water over its crests, do not.",
        "derived",
        limits={"keep": TANK_KEEPS},
    )
)
def _power_cut(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    plan = resilience.evaluation.plan
    told: set[str] = set()
    for trial in resilience.trials:
        for row in trial.vessels:
            vessel = plan.vessel(row.vessel)
            if row.spilled > _LEAST_SPILL and row.vessel not in told:
                told.add(row.vessel)
                yield Finding(
                    data,
                    "power_cut_spills",
                    "fault",
                    row.vessel,
                    "A power cut at its worst moment spills {spilled:volume} over the rim of "
                    f"{named(vessel)}.",
                    _TOO_SMALL
                    if _is_too_small(resilience, row.vessel)
                    else "Fill it lower, or give it an overflow to a safe place.",
                    {"spilled": row.spilled},
                    ()
                    if _is_too_small(resilience, row.vessel)
                    else fill(resilience.evaluation, vessel, -_LESS),
                )
            elif (
                vessel.use.keeps_fish
                and row.share_left < data.limits["keep"]
                and not tank_drains_by_itself(resilience.evaluation, row.vessel)
            ):
                yield Finding(
                    data,
                    "power_cut_drains_tank",
                    "fault",
                    row.vessel,
                    f"A power cut leaves {named(vessel)} {{left:percent}} of its water.",
                    "Open its crest to the air, or end the pipe above the water.",
                    {"left": row.share_left},
                )


@dynamic_rule(
    Rule(
        "U8", "When the power is back", "The pump starts before the first water returns.", "derived"
    )
)
def _restart(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    plan = resilience.evaluation.plan
    worst: dict[str, PowerCutTrial] = {}
    for trial in resilience.trials:
        for pump in trial.restart.air:
            worst.setdefault(pump, trial)
    for id_, trial in worst.items():
        pump = plan.part(id_)
        level = trial.restart.lowest[id_] + pump.inlet_height
        small = _is_too_small(resilience, pump.stands_in)
        yield Finding(
            data,
            "air_at_restart",
            "fault",
            id_,
            f"When power is back, {named(pump)} runs dry before enough water has returned.",
            _TOO_SMALL if small else f"Fill {named(plan.vessel(pump.stands_in))} higher.",
            offers=()
            if small
            else _filled(
                resilience, pump.stands_in, max(level, 0.0), pump.inlet_height + LEAST_COVER
            ),
        )


@dynamic_rule(
    Rule(
        "U9",
        "A pump in the fish tank",
        "Whatever breaks or clogs after it, a pump can empty its tank down to its own inlet.",
        "common practice",
        limits={"hand": _HAND},
        needs_failures=True,
    )
)
def _tank_pump(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    plan = resilience.evaluation.plan
    for pump in plan.pumps:
        tank = plan.vessel(pump.stands_in)
        rows = [w for w in resilience.outcomes if w.half_in == tank.id and w.half_after]
        if not tank.use.keeps_fish or not rows:
            continue
        first = min(rows, key=lambda w: w.half_after or 0.0)
        low = float(resilience.periodic.through.level(tank.id).min()) - tank.floor_height
        at = mark_below(low - data.limits["hand"])
        offers: tuple[Offer, ...] = ()
        if at > pump.inlet_height:
            offers = (
                Offer(
                    f"hang {named(pump)} {{at:length}} over the floor",
                    (Edit(f"pumps.{pump.id}.inlet_height", at),),
                    f"{pump.id}.flow",
                    {"at": at},
                ),
            )
        yield Finding(
            data,
            "pumps_tank_down",
            "warning",
            pump.id,
            f"If {_failed(plan, first)}, {named(pump)} empties {named(tank)}: half its water is "
            "gone after {half:time}, and {left:percent} stays.",
            "Set it a hand’s width below low water: the water under its inlet is safe.",
            {"half": first.half_after or 0.0, "left": first.tank_left},
            offers,
        )


def _failed(plan: Plan, what_if: FailureOutcome) -> str:
    part = plan.part(what_if.failure.place)
    return FAILURES[what_if.failure.kind].format(name=named(part))
