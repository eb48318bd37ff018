"""How much water goes where: rules F."""

from collections.abc import Iterator
from functools import partial

from bathys.edits import Edit
from bathys.edits.valves import open_valve
from bathys.evaluation import Delivery, Duty, Evaluation
from bathys.network import holds_back
from bathys.parts.practice import LEAST_TURNOVER, PUMP_RESERVE, TURNOVER_AIMS
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Offer, Rule, Severity, rule
from bathys.sizing import gains

__all__: list[str] = []

_HOUR = 3600.0
_OFFERS = 2


@rule(
    Rule(
        "F0",
        "The pump lifts the water",
        "Above its shut-off lift a pump turns and delivers nothing.",
        "derived",
        limits={"share": 0.9},
    )
)
def _lifts(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        pump = duty.pump
        if duty.flow < -1e-9:
            yield _pushed_back(evaluation, data, duty)
        for delivery in duty.deliveries:
            by_clock = any(evaluation.plan.part(r).is_usually_shut for r in delivery.path)
            if delivery.flow <= 1e-9 and not (by_clock and len(duty.deliveries) > 1):
                yield _carries_nothing(evaluation, data, duty, delivery)
        lifts = [d.lift for d in duty.deliveries if d.flow > 1e-9]
        if lifts and max(lifts) > data.limits["share"] * duty.shut_off_head:
            yield Finding(
                data,
                "near_its_limit",
                "warning",
                pump.id,
                f"{named(pump)} works close to the most it can lift: "
                "{lift:head} of {top:head}. A little film or a lower tank will stop it.",
                "Choose a pump with more lift, or lower the outlet.",
                {"lift": max(lifts), "top": duty.shut_off_head},
            )


def _pushed_back(evaluation: Evaluation, data: Rule, duty: Duty) -> Finding:
    riser = evaluation.plan.run_of(duty.pump)
    offers: tuple[Offer, ...] = ()
    if riser is not None and not holds_back(riser):
        rows = [f.model_dump(mode="json") for f in riser.fittings]
        edit = Edit(f"runs.{riser.id}.fittings", [*rows, {"kind": "swing_check", "count": 1}])
        offers = (Offer(f"fit a check valve in {named(riser)}", (edit,), f"{duty.pump.id}.flow"),)
    return Finding(
        data,
        "pushed_back",
        "fault",
        duty.pump.id,
        f"{named(duty.pump)} is overpowered: "
        "{back:flow} is pushed back through it, since the "
        "other pump holds more head against it than the {top:head} it can make.",
        "Fit a check valve, or give it a line of its own.",
        {"back": -duty.flow, "top": duty.shut_off_head},
        offers,
    )


def _carries_nothing(evaluation: Evaluation, data: Rule, duty: Duty, delivery: Delivery) -> Finding:
    plan, pump = evaluation.plan, duty.pump
    vessel = named(plan.vessel(delivery.vessel))
    shut = next((r for r in delivery.path if evaluation.balance.layout.lines[r].shut), None)
    if shut is not None:
        run = plan.part(shut)
        return Finding(
            data,
            "valve_shut",
            "fault" if len(duty.deliveries) == 1 else "note",
            shut,
            f"The valve on {named(run)} is shut, so nothing flows to {vessel}."
            if not run.is_usually_shut
            else f"The clock keeps the valve on {named(run)} shut most of the time, and the pump "
            "works against it.",
            "Open the valve." if not run.is_usually_shut else "Switch the pump by the same clock.",
            offers=(Offer("open the valve", (open_valve(run),), f"{pump.id}.flow"),)
            if run.valve is not None and not run.is_usually_shut
            else (),
        )
    if delivery.lift >= duty.shut_off_head:
        return Finding(
            data,
            "lifts_too_little",
            "fault",
            pump.id,
            f"{named(pump)} carries nothing to {vessel}: "
            "the lift is {lift:head} and the pump stops at {top:head}.",
            "It needs a pump that lifts more than {lift:head}, or {less:head} less lift.",
            {
                "lift": delivery.lift,
                "top": duty.shut_off_head,
                "less": delivery.lift - duty.shut_off_head,
            },
            partial(_more_flow, evaluation, delivery.run, f"{delivery.run}.flow"),
        )
    run = plan.part(delivery.run)
    there = evaluation.balance.heads.get(run.start, 0.0)
    level = evaluation.balance.levels[pump.stands_in]
    return Finding(
        data,
        "branch_gets_nothing",
        "fault",
        delivery.run,
        f"{named(run)} carries nothing: its outlet lies "
        "{lift:head} over the water at the pump, "
        "and the other branches leave only {there:head} where it begins.",
        "Throttle the branches that take the most, or lower this outlet by {less:head}.",
        {"lift": delivery.lift, "there": there - level, "less": delivery.lift - there + level},
        partial(_more_flow, evaluation, delivery.run, f"{delivery.run}.flow"),
    )


def _severity(is_chosen: bool) -> Severity:
    return "warning" if is_chosen else "note"


def _more_flow(evaluation: Evaluation, watched: str, key: str) -> tuple[Offer, ...]:
    """The changes that gain most flow."""
    best = gains(evaluation.balance, watched)[:_OFFERS]
    return tuple(Offer(g.label, g.edits, key, g.figures) for g in best)


@rule(
    Rule(
        "F1",
        "Whole-system turnover",
        "All the water should pass the pump often enough.",
        "common practice",
        school="whole_system",
        limits={"least": LEAST_TURNOVER, "aim": TURNOVER_AIMS["whole_system"]},
    )
)
def _system_turnover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    chosen = "whole_system" in evaluation.plan.brief.schools
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        loop = {v for v, c in evaluation.balance.closing.items() if c == closer}
        duties = [d for d in evaluation.duties.values() if d.pump.stands_in in loop]
        flow = sum(
            evaluation.runs[w.run].mean_flow
            for d in duties
            for w in d.deliveries
            if w.vessel != d.pump.stands_in
        )
        volume = sum(evaluation.vessels[v].rest_volume for v in loop)
        if not duties or flow <= 0.0 or flow >= data.limits["least"] * volume:
            continue
        pump = duties[0].pump
        yield Finding(
            data,
            "all_water_too_seldom",
            _severity(chosen),
            pump.id,
            "All the water passes the pump {now:per_hour}; this school asks for at least "
            "{least:per_hour}, better {aim:per_hour}.",
            "It takes {need:flow}; {flow:flow} is delivered.",
            {
                "now": flow / volume,
                "flow": flow,
                "need": volume * data.limits["least"],
                **data.limits,
            },
            partial(_more_flow, evaluation, pump.id, f"{pump.id}.flow"),
        )


@rule(
    Rule(
        "F2",
        "Tank turnover",
        "Moving water carries waste out and oxygen in.",
        "common practice",
        school="tank",
        limits={"least": LEAST_TURNOVER, "aim": TURNOVER_AIMS["tank"]},
    )
)
def _tank_turnover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    chosen = "tank" in evaluation.plan.brief.schools
    for result in evaluation.vessels.values():
        if not result.vessel.use.keeps_fish or result.inflow <= 0.0:
            continue
        if result.turnover < data.limits["least"]:
            id_ = result.vessel.id
            ways = [d for d in evaluation.deliveries if d.vessel == id_ and d.flow > 0.0]
            watched = ways[0].run if ways else next(iter(evaluation.duties), "")
            yield Finding(
                data,
                "tank_too_seldom",
                _severity(chosen),
                id_,
                f"{named(result.vessel)} turns over "
                "{now:per_hour}; this school asks for at least "
                "{least:per_hour}.",
                "It takes {need:flow} from elsewhere; {flow:flow} arrives.",
                {
                    "now": result.turnover,
                    "least": data.limits["least"],
                    "flow": result.treated,
                    "need": result.volume * data.limits["least"],
                },
                partial(_more_flow, evaluation, watched, f"{id_}.turnover") if watched else (),
            )


@rule(
    Rule(
        "F3",
        "Bed turnover",
        "Two shell volumes an hour feed the bed with the smallest pump.",
        "common practice",
        school="frugal",
        limits={"aim": TURNOVER_AIMS["frugal"]},
    )
)
def _bed_turnover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    if "frugal" not in evaluation.plan.brief.schools:
        return
    for result in evaluation.vessels.values():
        if not result.vessel.use.floods or result.inflow <= 0.0:
            continue
        rate = result.inflow / result.shell_volume
        if rate < data.limits["aim"]:
            yield Finding(
                data,
                "bed_too_little",
                "warning",
                result.vessel.id,
                f"{named(result.vessel)} gets its shell volume "
                "{now:per_hour}; this school "
                "asks for {aim:per_hour}.",
                "It takes {need:flow}; {flow:flow} arrives.",
                {
                    "now": rate,
                    "need": result.shell_volume * data.limits["aim"],
                    "flow": result.inflow,
                    **data.limits,
                },
            )


@rule(
    Rule(
        "F4",
        "Headroom of the pump",
        "A pump chosen well over what is wanted can be throttled now and opened as film grows.",
        "common practice",
        school="headroom",
        limits={"reserve": PUMP_RESERVE},
    )
)
def _headroom(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    if "headroom" not in evaluation.plan.brief.schools:
        return
    for duty in evaluation.duties.values():
        opened = [
            g for g in gains(evaluation.balance, duty.pump.id) if g.label.startswith("open the")
        ]
        more = max((g.gain for g in opened), default=0.0)
        if duty.flow > 0.0 and more < data.limits["reserve"] * duty.flow:
            yield Finding(
                data,
                "little_in_hand",
                "warning",
                duty.pump.id,
                f"{named(duty.pump)} has little reserve: opening its valves gives only "
                "{more:flow} more than the {flow:flow} it moves; this school asks for "
                "{reserve:percent}.",
                "Choose a stronger pump and throttle it.",
                {"more": more, "flow": duty.flow, **data.limits},
            )


@rule(
    Rule(
        "F5",
        "Time in a raft",
        "Plants in rafts take up feed slowly: one to four hours.",
        "common practice",
        limits={"least": _HOUR, "most": 4.0 * _HOUR},
    )
)
def _raft_time(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        if not result.vessel.use.has_rafts or result.inflow <= 0.0 or result.volume <= 0.0:
            continue
        held = result.volume / result.inflow
        if not data.limits["least"] <= held <= data.limits["most"]:
            short = held < data.limits["least"]
            limit = data.limits["least" if short else "most"]
            yield Finding(
                data,
                "raft_too_long_or_short",
                "note",
                result.vessel.id,
                f"Water stays in {named(result.vessel)} for "
                "{held:time}; {least:time} to "
                "{most:time} is usual.",
                f"That takes {'at most' if short else 'at least'} "
                "{need:flow}; {flow:flow} "
                "arrives.",
                {"held": held, "need": result.volume / limit, "flow": result.inflow, **data.limits},
            )
