"""Siphons: rules B."""

from collections.abc import Callable, Iterator
from functools import partial

from bathys.evaluation import BedResult, Evaluation
from bathys.parts.practice import START_MARGIN, STOP_MARGIN
from bathys.plan import Plan
from bathys.plan.naming import named
from bathys.plan.vessel import Vessel
from bathys.rules.registry import Finding, Rule, Severity, rule
from bathys.rules.siphon_remedies import closed_ways, siphon_ways, valve_setting
from bathys.simulation import PumpedBedLoop

__all__: list[str] = []

Told = tuple[str, str]


def _never_starts(result: BedResult) -> Told:
    return (
        "{name} never starts: {inflow:flow} trickles over the standpipe, and it takes more than "
        "{start:flow} to sweep the air out.",
        "Send more water to the bed, or fit a narrower standpipe.",
    )


def _slow(result: BedResult) -> Told:
    return (
        "{name} is slow to start: {inflow:flow} is hardly more than the {start:flow} it takes.",
        "Send more water to the bed, or fit a narrower standpipe.",
    )


def _holds(result: BedResult) -> Told:
    return (
        "{name} never stops: it passes {inflow:flow} for ever without drawing the bed down to its "
        "slots.",
        "Send less than {stop:flow}, or lengthen the tail.",
    )


def _hangs(result: BedResult) -> Told:
    return (
        "{name} does not stop: it drains the bed to its slots and gurgles there. The inflow of "
        "{inflow:flow} is more than the {stop:flow} at which it stops.",
        "Send less than {stop:flow}, add an air tube, or lengthen the tail.",
    )


def _overflows(result: BedResult) -> Told:
    return (
        "{bed} overflows: {inflow:flow} is more than {name} passes, or the bed is too "
        "shallow for it to start.",
        "Send less water to the bed, lower the standpipe, or fit a wider one.",
    )


def _starved(result: BedResult) -> Told:
    return (
        "{tank} falls to the pump’s inlet before {bed} is full, so {name} never starts.",
        "Fill the tank higher, set the pump lower, or lower the standpipe.",
    )


def _leaks(result: BedResult) -> Told:
    return (
        "{name} never starts: {inflow:flow} flows in, and {ways} drains it with the water at "
        "{stands:length}; the standpipe’s rim is at {rim:length}.",
        "Close that outlet, or start it above the standpipe’s rim.",
    )


_VERDICTS: dict[str, Callable[[BedResult], Told]] = {
    "never_starts": _never_starts,
    "slow": _slow,
    "holds": _holds,
    "hangs": _hangs,
    "overflows": _overflows,
    "starved": _starved,
    "leaks": _leaks,
}


def _named(text: str, result: BedResult, plan: Plan) -> str:
    ways = " with ".join(named(plan.part(w)) for w in result.other_ways)
    tank = named(result.loop.tank) if isinstance(result.loop, PumpedBedLoop) else "the sump"
    for slot, name in (
        ("name", named(result.siphon)),
        ("bed", named(result.bed)),
        ("tank", tank),
        ("ways", ways),
    ):
        text = text.replace("{" + slot + "}", name)
    return text


@rule(
    Rule(
        "B1",
        "The siphon starts and stops",
        "The inflow must be enough to start the siphon and small enough to let it stop.",
        "derived",
        "self-venting limit, Simpson (1968), Hills (1983), from memory; margins are "
        "common practice",
        limits={"start_margin": START_MARGIN, "stop_margin": STOP_MARGIN},
    )
)
def _window(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.beds:
        cycle, siphon = result.cycle, result.siphon
        window = cycle.window
        figures = {
            "inflow": cycle.start_inflow,
            "start": window.start.value,
            "stop": window.stop.value,
        }
        if cycle.verdict == "no_inflow":
            continue  # F6 or F0 says why
        if window.is_empty:
            yield Finding(
                data,
                "no_inflow_works",
                "fault",
                siphon.id,
                f"No inflow works for {named(siphon)}: it starts above "
                "{start:flow} but stops "
                "only below {stop:flow}.",
                "Lengthen the tail: the drop below the bed is what stops it.",
                figures,
                partial(siphon_ways, evaluation, result, ()),
            )
        elif cycle.verdict in _VERDICTS:
            sentence, hint = _VERDICTS[cycle.verdict](result)
            severity: Severity = "warning" if cycle.verdict == "slow" else "fault"
            plan = evaluation.plan
            if cycle.verdict == "leaks":
                stands = {"stands": cycle.bed_high, "rim": result.loop.built.rim}
                yield Finding(
                    data,
                    cycle.verdict,
                    severity,
                    siphon.id,
                    _named(sentence, result, plan),
                    hint,
                    {**figures, **stands},
                    tuple(closed_ways(evaluation, result)),
                )
                continue
            setting, target, offers = valve_setting(evaluation, result, data)
            yield Finding(
                data,
                cycle.verdict,
                severity,
                siphon.id,
                _named(sentence, result, plan),
                _named(hint, result, plan) + setting,
                {**figures, **target},
                partial(siphon_ways, evaluation, result, offers),
            )
        elif cycle.verdict == "uneven":
            continue  # only time shows it
        else:
            yield from _margins(evaluation, result, data, figures)


def _margins(
    evaluation: Evaluation, result: BedResult, data: Rule, figures: dict[str, float]
) -> Iterator[Finding]:
    cycle, siphon = result.cycle, result.siphon
    is_low = cycle.start_inflow < data.limits["start_margin"] * cycle.window.start.value
    is_high = cycle.break_inflow > data.limits["stop_margin"] * cycle.window.stop.value
    if not is_low and not is_high:
        return
    setting, target, offers = valve_setting(evaluation, result, data)
    if is_low:
        yield Finding(
            data,
            "start_margin_small",
            "warning",
            siphon.id,
            f"{named(siphon)} starts, but with little margin: "
            "{inflow:flow} against "
            "{start:flow}.",
            "A season of film may keep it from starting." + setting,
            {**figures, **target},
            partial(siphon_ways, evaluation, result, offers),
        )
    if is_high:
        yield Finding(
            data,
            "stop_margin_small",
            "warning",
            siphon.id,
            f"{named(siphon)} stops, but with little margin: "
            "{inflow:flow} against "
            "{stop:flow}.",
            "A longer tail, an air tube or less water would make it sure."
            + setting * ("angle" in target),
            {**figures, **target, "inflow": cycle.break_inflow},
            partial(siphon_ways, evaluation, result, offers),
        )


@rule(
    Rule(
        "B3",
        "Dry top",
        "Media that stay dry on top grow no algae and fewer gnats.",
        "common practice",
        limits={"dry": 0.025, "slack": 0.010},
    )
)
def _dry_top(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.beds:
        media, built = result.bed.media, result.loop.built
        if media is None:
            continue
        dry = media.top - built.rim
        if dry < data.limits["dry"] - data.limits["slack"]:
            yield Finding(
                data,
                "dry_top",
                "note",
                built.part.id,
                f"The standpipe of {named(built.part)} ends "
                "{dry:length} below the media’s top; "
                "{aim:length} keeps the top dry.",
                "Cut the standpipe to {cut:length}.",
                {"dry": dry, "aim": data.limits["dry"], "cut": media.top - data.limits["dry"]},
            )


@rule(
    Rule(
        "B4",
        "Drop of the tail",
        "The drop below the bed pulls the siphon and stops it.",
        "common practice",
        limits={"least": 0.3, "most": 0.6},
    )
)
def _tail(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.beds:
        built = result.loop.built
        drop = built.floor - built.outlet
        if drop < data.limits["least"]:
            if drop > 0.0:
                place = " drops only {drop:length} below the bed"
            elif drop < 0.0:
                place = " ends {over:length} over the bed’s floor, so nothing pulls the siphon"
            else:
                place = " ends level with the bed’s floor, so nothing pulls the siphon"
            yield Finding(
                data,
                "tail_drop",
                "warning" if drop > 0.0 else "fault",
                built.part.id,
                f"The tail of {named(built.part)}" + place + "; a drop of {least:length} to "
                "{most:length} is usual.",
                "Raise the bed or lower the end of the tail.",
                {"drop": drop, "over": -drop, **data.limits},
            )


def _tail_end(evaluation: Evaluation, result: BedResult) -> Vessel | None:
    """The vessel a siphon's tail ends in; none if it ends in a drain."""
    tail = evaluation.plan.run_of(result.siphon)
    end = evaluation.plan.part(tail.target) if tail is not None else None
    return end if isinstance(end, Vessel) else None


@rule(
    Rule(
        "B7",
        "Open end of the tail",
        "A tail that ends under water traps air, starts unsurely and pulls with less head.",
        "common practice",
    )
)
def _drowned(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.beds:
        built, high = result.loop.built, result.cycle.tank_high
        end = _tail_end(evaluation, result)
        if end is None:
            continue
        if high > built.outlet:
            # Trapped air can lift the spill by up to the submergence: a static bound.
            may_spill = built.rim + high - built.outlet > result.bed.shape.height
            over = ", over the bed’s rim" if may_spill else ""
            yield Finding(
                data,
                "tail_drowned",
                "fault" if may_spill else "warning",
                built.part.id,
                f"The tail of {named(built.part)} ends "
                "{deep:length} under water when "
                f"{named(end)} is full. Air caught in it can hold the bed’s level up "
                f"by as much{over}, and the start flow is then in doubt.",
                "End the tail above {level:length} over its floor.",
                {"deep": high - built.outlet, "level": high - end.floor_height},
            )
