"""Watts: rules E."""

from collections.abc import Iterator
from functools import partial

from bathys.edits import Edit
from bathys.edits.valves import has_lever, open_valve
from bathys.evaluation import Duty, Evaluation
from bathys.evaluation.duty import power_drawn
from bathys.network import NotSolved
from bathys.parts.pumps import sample_pumps
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Offer, Rule, rule
from bathys.sizing import BASIS, balance_valves, flow_asked, pump_edits, search_pumps

__all__: list[str] = []


@rule(
    Rule(
        "E0",
        "Watts that can be",
        "Small pumps turn a tenth to two fifths of their watts into "
        "moving water; a better figure is a misread label.",
        "common practice",
        limits={"most": 0.5},
    )
)
def _possible_watts(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        if duty.efficiency > data.limits["most"]:
            yield Finding(
                data,
                "watts_doubtful",
                "warning",
                duty.pump.id,
                f"{named(duty.pump)} is said to draw "
                "{power:power} and to put "
                "{useful:power} into the water, {share:percent} of it; no small pump does.",
                "Check flow, lift and watts on the label, or measure the watts.",
                {"power": duty.power, "useful": duty.useful_power, "share": duty.efficiency},
            )


@rule(
    Rule(
        "E1",
        "Power burnt in a valve",
        "A throttled valve turns watts into nothing.",
        "derived",
        limits={"share": 0.2},
    )
)
def _throttled(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        if duty.valve_power <= data.limits["share"] * duty.power:
            continue
        ways = [d for d in duty.deliveries if d.flow > 0.0]
        burning = {r for d in ways for r in d.path if evaluation.runs[r].valve_loss != 0.0}
        if not burning:
            continue  # what burns it lies on no way that carries water to a vessel
        worst = max(burning, key=lambda r: _burnt(evaluation, r))
        others = f" and {len(burning) - 1} more" if len(burning) > 1 else ""
        yield Finding(
            data,
            "valve_burns",
            "note",
            worst,
            f"The valve on {named(evaluation.plan.part(worst))}{others} wastes "
            "{watts:power} day and night, {share:percent} of what the pump draws.",
            "A smaller pump with its valve open would do the same work.",
            {"watts": duty.valve_power, "share": duty.valve_power / duty.power},
            partial(_slower, evaluation, duty),
        )


def _burnt(evaluation: Evaluation, run: str) -> float:
    result = evaluation.runs[run]
    return abs(result.flow * result.valve_loss)


def _slower(evaluation: Evaluation, duty: Duty) -> tuple[Offer, ...]:
    """The same flows with the pump turned down, for a plan of one pump that says its flows; else
    for one outlet at the flow it has."""
    if len(evaluation.duties) > 1 or duty.pump.dial < 1.0:
        return ()
    wanted = {d.run: d.flow for d in duty.deliveries if d.flow > 0.0}
    if len(wanted) != 1 and any(evaluation.plan.part(r).wanted_flow is None for r in wanted):
        return ()
    now = evaluation.balance
    settings = balance_valves(now, "slowed", wanted if len(wanted) == 1 else None)
    if settings.refusal or settings.dial is None:
        return ()
    # A valve in the way of a single outlet, not at its end, is opened too.
    passed = [evaluation.plan.part(r) for d in duty.deliveries for r in d.path if r not in wanted]
    opened = tuple(open_valve(r) for r in passed if len(wanted) == 1 and has_lever(r))
    return (
        Offer(
            "turn the pump to {dial:percent} and open the valves to match",
            (*opened, *settings.edits),
            f"{duty.pump.id}.power",
            {"dial": settings.dial},
        ),
    )


@rule(
    Rule(
        "E4",
        "A pump for the job",
        "A pump that is far too strong wastes power all year.",
        "derived",
        limits={"watts": 4.0, "flow": 2.0},
    )
)
def _oversized(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        asked, basis = flow_asked(evaluation.balance, duty.pump)
        if duty.flow <= 0.0 or basis == "today" or duty.label_flow < data.limits["flow"] * asked:
            continue
        least = min((p.power for p in sample_pumps() if p.max_flow > asked), default=duty.power)
        if duty.power < data.limits["watts"] * least:
            continue  # a search through hundreds of pumps is for those that may be far too strong
        try:
            search = search_pumps(evaluation.balance, duty.pump, sample_pumps())
        except NotSolved:
            continue
        demand = search.demand
        best = next(iter(search.fitting), None)
        if best is None or duty.power < data.limits["watts"] * best.pump.power:
            continue
        is_grave = duty.power > 2.0 * data.limits["watts"] * best.pump.power
        yield Finding(
            data,
            "far_too_strong",
            "warning" if is_grave else "note",
            duty.pump.id,
            f"{named(duty.pump)} is far stronger than the job: {BASIS[demand.basis]}, and a fifth "
            "more, take {flow:flow} at {head:head}, and a pump of {watts:power} does that. This "
            "one draws {now:power} and is made for {label:flow}.",
            "Choose a smaller pump; “Suitable pumps” lists some.",
            {
                "flow": demand.flow,
                "head": demand.head,
                "watts": best.pump.power,
                "now": duty.power,
                "label": duty.label_flow,
            },
            (
                Offer(
                    "put {pump:words} in its place",
                    pump_edits(duty.pump, best.pump),
                    f"{duty.pump.id}.power",
                    {"pump": best.pump.name},
                ),
            ),
        )


@rule(
    Rule(
        "E5",
        "What a pump’s dial does",
        "A dial that slows a pump saves watts; one that narrows its intake saves next to none.",
        "published",
        "Affinity laws (any pump text)",
    )
)
def _dial(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for duty in evaluation.duties.values():
        pump = duty.pump
        if pump.dial_turns != "unknown" or pump.dial >= 1.0:
            continue
        other = pump.model_copy(update={"dial_turns": "intake"})
        path = f"pumps.{pump.id}.dial_turns"
        yield Finding(
            data,
            "dial_unknown",
            "note",
            pump.id,
            f"The dial of {named(pump)} is taken to slow it: {{slowed:power}}. If it narrows the "
            "intake, the pump draws about {narrowed:power}.",
            "Say which it does; a watt meter tells.",
            {"slowed": duty.power, "narrowed": power_drawn(other, duty.flow)},
            (
                Offer("say that it slows the pump", (Edit(path, "speed"),)),
                Offer("say that it narrows the intake", (Edit(path, "intake"),)),
            ),
        )


@rule(
    Rule(
        "E6",
        "A hanging pump",
        "A pump that hangs by its cable tears it, and a torn cable in the water kills.",
        "common practice",
    )
)
def _hanging(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for pump in evaluation.plan.pumps:
        if pump.hangs:
            yield Finding(
                data,
                "hangs",
                "note",
                pump.id,
                f"{named(pump)} hangs: let it hang on a cord of its own, never on its cable.",
                "A float switch beside it stops it before its inlet is bare.",
            )
