"""Beds that flood and drain by the clock, and those that hardly ever do: rules B10 and B11."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.edits.switches import rest_for
from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.plan.pumps import Pump
from bathys.plan.switch import Clock
from bathys.plan.way_out import Drilled
from bathys.rules.registry import LITRE_AN_HOUR, Finding, Offer, Rule, rule
from bathys.sizing.timers import TimerAsk, hole_flow, time_to_drain, time_to_fill
from bathys.vessels import storage_of

__all__: list[str] = []

_LONGEST_REST = 86400.0


def _timed(evaluation: Evaluation, vessel: str) -> tuple[Pump, Clock] | None:
    """The timed pump that alone feeds a vessel, if that is what feeds it."""
    found = [d for d in evaluation.deliveries if d.vessel == vessel and d.flow > 0.0]
    pumps = {d.pump for d in found}
    pump = evaluation.plan.part(next(iter(pumps))) if len(pumps) == 1 else None
    by_drain = any(
        r.target == vessel and evaluation.runs[r.id].flow > 0.0
        for r in evaluation.plan.runs
        if r.id not in evaluation.balance.layout.pressure
    )
    if pump is None or by_drain or pump.clock is None:
        return None
    return pump, pump.clock


@rule(
    Rule("B10", "A timed bed drains between turns", "Roots want air between two floods.", "derived")
)
def _drains(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for outlet in plan.outlets:
        vessel = plan.vessel(outlet.stands_in)
        timed = _timed(evaluation, vessel.id)
        holes = outlet.drilled
        if not vessel.use.floods or timed is None or holes is None:
            continue
        pump, clock = timed
        area, low, rim = holes.area, holes.height, holes.top
        if rim is None:
            rim = evaluation.vessels[vessel.id].levels.high - vessel.floor_height
        if area <= 0.0:
            yield Finding(
                data,
                "never_drains",
                "warning",
                outlet.id,
                f"{named(vessel)} is flooded by the clock and never drains: {named(outlet)} has no "
                "small holes near its foot.",
                "Drill small holes near its foot, or leave the pump running for a constant flood.",
            )
            continue
        if rim <= low + 0.01:
            continue
        storage = storage_of(plan, vessel)
        inflow = sum(d.flow for d in evaluation.deliveries if d.vessel == vessel.id)
        ask = TimerAsk(inflow, rim, low, clock.runs, 0.0, clock.turn)
        drains, fills = time_to_drain(storage, ask, area), time_to_fill(storage, ask, area)
        if fills > clock.runs:
            continue  # it is never full, so that how long a full one takes tells nothing
        if drains > clock.rests:
            yield Finding(
                data,
                "drains_too_slowly",
                "warning",
                outlet.id,
                f"{named(vessel)} does not drain between two turns: {named(outlet)} takes "
                "{drains:time} to drain it, and the pump is off for {rests:time}.",
                "Drill more or larger holes, or leave the pump off for longer.",
                {"drains": drains, "rests": clock.rests},
                tuple(
                    _offers(
                        outlet.id,
                        holes,
                        pump,
                        clock,
                        drains,
                        float(hole_flow(area, rim - low)),
                        inflow,
                    )
                ),
            )


def _offers(
    outlet: str,
    holes: Drilled,
    pump: Pump,
    clock: Clock,
    drains: float,
    through: float,
    inflow: float,
) -> Iterator[Offer]:
    """More holes, if the inflow still fills the bed then; a longer rest."""
    more = 1.1 * drains / clock.rests
    count = math.ceil(more * holes.count)
    if through * more < 0.7 * inflow:
        yield Offer(
            "drill {count:count} holes",
            (Edit(f"outlets.{outlet}.{holes.field}", count),),
            "",
            {"count": count},
        )
    rest = 60.0 * math.ceil(1.05 * drains / 60.0)
    if rest <= _LONGEST_REST and pump.switch is not None and pump.switch.REST:
        yield Offer(
            "leave the pump off for {rest:time}", (rest_for(pump, rest),), "", {"rest": rest}
        )


@rule(
    Rule(
        "B11",
        "A siphon bed floods at least twice a day",
        "Between floods that lie farther apart the roots at the top dry.",
        "common practice",
        limits={"most": 43200.0},
    )
)
def _floods_seldom(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for result in evaluation.beds:
        built, floor = result.loop.built, result.bed.floor_height
        comes = sum(
            r.mean_flow
            for r in evaluation.runs.values()
            if r.run.target in result.linked and plan.owner_of(r.run.start) not in result.linked
        )
        takes = 0.0
        for vessel in map(plan.vessel, result.linked):
            storage, over = storage_of(plan, vessel), floor - vessel.floor_height
            top = min(max(built.rim + over, 0.0), storage.rim)
            takes += storage.volume_at(top) - storage.volume_at(max(built.intake + over, 0.0))
        if comes > LITRE_AN_HOUR and takes / comes > data.limits["most"]:
            beds = " and the beds joined to it take" if len(result.linked) > 1 else " takes"
            yield Finding(
                data,
                "starts_too_seldom",
                "warning",
                built.part.id,
                f"{named(result.bed)}{beds} "
                "{fill:time} to fill at the mean flow of "
                f"{{comes:flow}}: {named(built.part)} starts less than twice a day.",
                "Send more water to it, or make the bed smaller.",
                {"fill": takes / comes, "comes": comes},
            )
