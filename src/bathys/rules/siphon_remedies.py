"""What would bring a siphon into its window."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.edits.valves import SHUT, throttle
from bathys.evaluation import BedResult, Evaluation
from bathys.kinds import facet, kind_named
from bathys.parts.rounding import handle
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.way_out import Outlet
from bathys.rules.registry import Aim, Offer, Rule
from bathys.simulation import PumpedBedLoop
from bathys.sizing import (
    SiphonChoice,
    angle_for,
    ask_of_bed,
    choice_edits,
    design_siphon,
)

__all__ = ["closed_ways", "siphon_ways", "valve_setting"]

_STEP_UP = 0.1  # so much higher a bed is tried [m]


def closed_ways(evaluation: Evaluation, result: BedResult) -> Iterator[Offer]:
    """Each other way out of a bed, closed.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    result : BedResult
        The bed

    Yields
    ------
    Offer
        One for each
    """
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


def valve_setting(
    evaluation: Evaluation, result: BedResult, data: Rule
) -> tuple[str, dict[str, float], tuple[Offer, ...]]:
    """Where to turn the feed's valve for an inflow in the middle of what works with margins.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    result : BedResult
        The bed
    data : Rule
        The rule with its margins

    Returns
    -------
    (str, dict of str to float, tuple of Offer)
        What to do in words, the figures in them, and the change
    """
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


def siphon_ways(
    evaluation: Evaluation, result: BedResult, valve: tuple[Offer, ...]
) -> tuple[Offer, ...]:
    """The valve; for too little water the last elbow turned up, for too much an air tube and a bed
    set higher; and the siphon that would suit best.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    result : BedResult
        The bed
    valve : tuple of Offer
        What the valve of its feed would do

    Returns
    -------
    tuple of Offer
        Each alone
    """
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
