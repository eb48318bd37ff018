"""Siphons: rules B."""

import math
from collections.abc import Callable, Iterator
from functools import partial

from bathys.edits import Edit
from bathys.edits.valves import SHUT, throttle
from bathys.evaluation import BedResult, Evaluation
from bathys.kinds import facet, kind_named
from bathys.parts.practice import START_MARGIN, STOP_MARGIN
from bathys.parts.rounding import handle
from bathys.plan import Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import Outlet
from bathys.rules.registry import Aim, Finding, Offer, Rule, Severity, rule
from bathys.simulation import PumpedBedLoop
from bathys.sizing import (
    SiphonChoice,
    angle_for,
    ask_of_bed,
    choice_edits,
    design_siphon,
)

__all__: list[str] = []

Told = tuple[str, str]

_STEP_UP = 0.1  # so much higher a bed is tried [m]


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
                partial(_ways, evaluation, result, ()),
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
                    tuple(_closed(evaluation, result)),
                )
                continue
            setting, target, offers = _valve_setting(evaluation, result, data)
            yield Finding(
                data,
                cycle.verdict,
                severity,
                siphon.id,
                _named(sentence, result, plan),
                _named(hint, result, plan) + setting,
                {**figures, **target},
                partial(_ways, evaluation, result, offers),
            )
        elif cycle.verdict == "uneven":
            continue  # only time shows it
        else:
            yield from _margins(evaluation, result, data, figures)


def _closed(evaluation: Evaluation, result: BedResult) -> Iterator[Offer]:
    """Each other way out of a bed, closed."""
    plan = evaluation.plan
    watch = f"{result.bed.id}.cycle"
    for id_ in result.other_ways:
        part = plan.part(id_)
        runs = [part] if isinstance(part, Run) else [r for r in (plan.run_of(part),) if r]
        rim = result.siphon.spills_from
        if isinstance(part, Outlet) and part.has_small_holes and part.level_held > rim:
            yield Offer(
                f"leave out the small holes of {named(part)}",
                (Edit(f"outlets.{id_}.holes", 0),),
                watch,
            )
        for run in runs:
            shut = Edit(f"runs.{run.id}.valve", throttle(SHUT))
            yield Offer(f"shut {named(run)} with a valve", (shut,), watch)


def _valve_setting(
    evaluation: Evaluation, result: BedResult, data: Rule
) -> tuple[str, dict[str, float], tuple[Offer, ...]]:
    """Where to turn the feed's valve for an inflow in the middle of what works with margins."""
    low = data.limits["start_margin"] * result.cycle.window.start.value
    high = data.limits["stop_margin"] * result.cycle.window.stop.value
    feeds = [evaluation.plan.part(r) for r in result.feeds]
    if result.cycle.verdict == "starved" or low >= high or len(feeds) != 1:
        return "", {}, ()
    feed: Run = feeds[0]
    is_pumped = feed.id in evaluation.balance.layout.pressure
    if not is_pumped or evaluation.plan.owner_of(feed.end) is None:
        return "", {}, ()  # by gravity, or backwards out of a mouth
    target = math.sqrt(low * high)
    levels = _levels_at_start(evaluation, result)
    layout = evaluation.balance.layout
    angle = angle_for(layout, levels, feed, target)
    if angle is not None:
        angle = handle(angle)
        turn = "Turn the valve" if feed.valve else "Fit a ball valve"
        told = f" {turn} on {named(feed)}: at about "
        told += "{angle:angle} it passes {target:flow}, the middle of what works."
        edit = Edit(f"runs.{feed.id}.valve", throttle(angle))
        label = f"{turn[0].lower()}{turn[1:]} on {named(feed)} to {{angle:angle}}"
        offer = Offer(label, (edit,), f"{result.siphon.id}.window", {"angle": angle})
        return told, {"angle": angle, "target": target}, (offer,)
    if angle_for(layout, levels, feed, low) is not None:
        return " Open the valve: that gives {low:flow} or more.", {"low": low}, ()
    return " Even an open valve gives less than the {low:flow} it needs.", {"low": low}, ()


def _gets_too_little(result: BedResult) -> bool:
    """Whether the inflow lies nearer to what starts the siphon than to what it breaks at."""
    window = result.cycle.window
    if window.is_empty:
        return False
    return result.cycle.start_inflow < math.sqrt(window.start.value * window.stop.value)


def _ways(evaluation: Evaluation, result: BedResult, valve: tuple[Offer, ...]) -> tuple[Offer, ...]:
    """The valve; for too little water the last elbow turned up, for too much an air tube and a bed
    set higher; and
    the siphon that would suit best."""
    siphon, plan = result.siphon, evaluation.plan
    tail, offers = plan.run_of(siphon), list(valve)
    aim: Aim = "less" if _gets_too_little(result) else "more"
    watch = f"{siphon.id}.{'start' if aim == 'less' else 'stop'}"
    if aim == "less":
        if not siphon.end_elbow:
            up = Edit(f"siphons.{siphon.id}.end_elbow", 90.0)
            offers.append(Offer("turn the tail’s last elbow up", (up,), watch, aim=aim))
    else:
        if siphon.has_air_tube is False:
            fields = facet(siphon, "sizing").with_air_tube(siphon, True)
            tube = tuple(Edit(f"siphons.{siphon.id}.{f}", value) for f, value in fields.items())
            offers.append(Offer("fit an air tube", tube, watch, aim=aim))
        floor = Edit(f"vessels.{result.bed.id}.floor_height", result.bed.floor_height + _STEP_UP)
        offers.append(
            Offer(
                f"set {named(result.bed)} {{up:length}} higher",
                (floor,),
                watch,
                {"up": _STEP_UP},
                aim,
            )
        )
    if tail is not None and result.cycle.start_inflow > 0.0:
        cycle = result.cycle
        ask = ask_of_bed(result.loop.built, tail, cycle.start_inflow, cycle.break_inflow)
        choices = design_siphon(ask).choices
        best = next((c for c in choices if c.kind == siphon.kind), next(iter(choices), None))
        if best is not None:
            edits = choice_edits(siphon, best, tail.id)
            offers.append(Offer(_built_as(best), edits, watch, aim=aim))
    return tuple(offers)


def _built_as(choice: SiphonChoice) -> str:
    if not choice.bell:
        return f"build a {kind_named(choice.kind, 'edits').NAME} of {choice.nominal} tube"
    extras = (
        " with an air tube" * choice.has_tube
        + " and the tail’s end turned up" * choice.is_turned_up
    )
    return f"build it with a {choice.nominal} standpipe under a {choice.bell} bell{extras}"


def _levels_at_start(evaluation: Evaluation, result: BedResult) -> dict[str, float]:
    """Levels as the siphon should start: the bed full, and the pump's vessel with it."""
    levels = dict(evaluation.balance.levels)
    top = result.loop.built.priming_level
    levels[result.bed.id] = result.bed.floor_height + top
    if isinstance(result.loop, PumpedBedLoop):
        levels[result.loop.tank.id] = float(result.loop.tank_level(top))
    return levels


def _margins(
    evaluation: Evaluation, result: BedResult, data: Rule, figures: dict[str, float]
) -> Iterator[Finding]:
    cycle, siphon = result.cycle, result.siphon
    is_low = cycle.start_inflow < data.limits["start_margin"] * cycle.window.start.value
    is_high = cycle.break_inflow > data.limits["stop_margin"] * cycle.window.stop.value
    if not is_low and not is_high:
        return
    setting, target, offers = _valve_setting(evaluation, result, data)
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
            partial(_ways, evaluation, result, offers),
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
            partial(_ways, evaluation, result, offers),
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
