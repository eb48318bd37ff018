"""Flow, pipes and power: rules F, P and E."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation
from bathys.rules.registry import Finding, Rule, Severity, rule

__all__: list[str] = []

_HOUR = 3600.0


@rule(Rule("F0", "The pump lifts the water",
           "Above its shut-off lift a pump turns and delivers nothing.", "derived"))  # fmt: skip
def _lifts(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        duty, loop = result.duty, result.loop
        if loop.line.shut:
            yield Finding(
                data, "fault", loop.riser.id,
                f"The valve on {loop.riser.name} is shut, so nothing flows.", "Open the valve.",
            )  # fmt: skip
        elif duty.flow <= 0.0:
            yield Finding(
                data, "fault", loop.pump.id,
                f"{loop.pump.name} carries nothing to {loop.bed.name}: "
                "the lift is {lift:head} and the pump stops at {top:head}.",
                "It needs a pump that lifts more than {lift:head}, or {less:head} less lift.",
                {"lift": duty.lift, "top": duty.shut_off_head,
                 "less": duty.lift - duty.shut_off_head},
            )  # fmt: skip
        elif duty.lift > data.limits.get("share", 0.9) * duty.shut_off_head:
            yield Finding(
                data, "warning", loop.pump.id,
                f"{loop.pump.name} works close to the most it can lift: "
                "{lift:head} of {top:head}. A little slime or a lower tank will stop it.",
                "Choose a pump with more lift, or bring the outlet down.",
                {"lift": duty.lift, "top": duty.shut_off_head},
            )  # fmt: skip


def _turnover_severity(value: float, least: float, is_chosen: bool) -> Severity | None:
    if value >= least:
        return None
    return "warning" if is_chosen else "note"


@rule(Rule("F1", "Whole-system turnover", "All the water should pass the beds often enough.",
           "common practice", school="whole_system",
           limits={"least": 1.0 / _HOUR, "aim": 2.0 / _HOUR}))  # fmt: skip
def _system_turnover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        chosen = "whole_system" in evaluation.plan.brief.schools
        flow, volume = result.cycle.mean_inflow, result.loop.total_volume
        severity = _turnover_severity(flow / volume, data.limits["least"], chosen)
        if severity and chosen and flow > 0.0:
            yield Finding(
                data, severity, result.loop.pump.id,
                "All the water passes the bed {now:per_hour}; this school wants at least "
                "{least:per_hour}, better {aim:per_hour}.",
                "It takes {need:flow}; the pump delivers {flow:flow}.",
                {"now": flow / volume, "flow": flow, "need": volume * data.limits["least"],
                 **data.limits},
            )  # fmt: skip


@rule(Rule("F2", "Tank turnover", "Moving water carries waste out and oxygen in.",
           "common practice", school="tank",
           limits={"least": 1.0 / _HOUR, "aim": 1.5 / _HOUR}))  # fmt: skip
def _tank_turnover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        chosen = "tank" in evaluation.plan.brief.schools
        severity = _turnover_severity(result.tank_turnover, data.limits["least"], chosen)
        if severity and result.cycle.mean_inflow > 0.0:
            yield Finding(
                data, severity, result.loop.tank.id,
                f"{result.loop.tank.name} turns over " "{now:per_hour}; this school wants at least "
                "{least:per_hour}.",
                "It takes {need:flow}; the pump delivers {flow:flow}.",
                {"now": result.tank_turnover, "least": data.limits["least"],
                 "flow": result.cycle.mean_inflow,
                 "need": result.cycle.mean_inflow * data.limits["least"]
                 / max(result.tank_turnover, 1e-12)},
            )  # fmt: skip


@rule(Rule("F3", "Bed turnover", "Two shell volumes an hour feed the bed with the smallest pump.",
           "common practice", school="frugal", limits={"aim": 2.0 / _HOUR}))  # fmt: skip
def _bed_turnover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        chosen = "frugal" in evaluation.plan.brief.schools
        severity = _turnover_severity(result.bed_turnover, data.limits["aim"], chosen)
        if severity == "warning":
            yield Finding(
                data, severity, result.loop.bed.id,
                f"{result.loop.bed.name} gets its shell volume " "{now:per_hour}; this school "
                "wants {aim:per_hour}.", "", {"now": result.bed_turnover, **data.limits},
            )  # fmt: skip


@rule(Rule("P1", "Velocity in pressure pipe",
           "Faster water wastes the pump’s head; far slower pipe costs more than it saves.",
           "common practice", limits={"low": 0.5, "high": 1.5, "most": 2.0}))  # fmt: skip
def _velocity(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        speed, most = result.duty.velocity, data.limits["most"]
        if speed > data.limits["high"]:
            yield Finding(
                data, "warning" if speed > most else "note", result.loop.riser.id,
                f"Water runs at " "{speed:speed} in " f"{result.loop.riser.name}; "
                "{high:speed} is the usual most.",
                "The next larger bore would cost less head.",
                {"speed": speed, "high": data.limits["high"]},
            )  # fmt: skip


@rule(Rule("E0", "Watts that can be", "Small pumps turn a tenth to two fifths of their watts into "
           "moving water; a better figure is a misread label.",
           "common practice", limits={"most": 0.5}))  # fmt: skip
def _possible_watts(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        duty = result.duty
        if duty.efficiency > data.limits["most"]:
            yield Finding(
                data, "warning", result.loop.pump.id,
                f"{result.loop.pump.name} is said to draw " "{power:power} and to put "
                "{useful:power} into the water, {share:percent} of it; no small pump does.",
                "Check flow, lift and watts on the label, or measure the watts.",
                {"power": duty.power, "useful": duty.useful_power, "share": duty.efficiency},
            )  # fmt: skip


@rule(Rule("E1", "Power burnt in a valve", "A throttled valve turns watts into nothing.",
           "derived", limits={"share": 0.2}))  # fmt: skip
def _throttled(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        duty = result.duty
        if duty.valve_power > data.limits["share"] * duty.power:
            yield Finding(
                data, "note", result.loop.riser.id,
                f"The valve on {result.loop.riser.name} burns " "{watts:power} day and night, "
                "{share:percent} of what the pump draws.",
                "A smaller pump with its valve open would do the same work.",
                {"watts": duty.valve_power, "share": duty.valve_power / duty.power},
            )  # fmt: skip
