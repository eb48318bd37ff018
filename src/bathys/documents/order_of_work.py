"""The order of work, from strings on the ground to the first fish, with every figure."""

from collections.abc import Iterator
from dataclasses import dataclass

from bathys.build import bases_of, holes_of, pipe_pieces
from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["Step", "order_of_work"]

_HOUR = 3600.0
_TAP = 0.01 / 40.0  # what a tap gives (common practice) [m³/s]
_A_BASE, _A_HOLE, _A_PIECE, _A_BED = 1.5, 0.3, 0.3, 1.0  # hours of work (common practice) [h]


@dataclass(frozen=True, slots=True)
class Step:
    """A step of the work.

    Attributes
    ----------
    key : str
        Its name, by which a tick is kept
    title, text : str
        What is done
    caution : str
        What is to be minded; empty if nothing special
    hours : float
        It takes about (common practice), [h]
    """

    key: str
    title: str
    text: str
    caution: str
    hours: float


def order_of_work(found: Evaluation, units: System) -> tuple[Step, ...]:
    """What is done in which order.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    tuple of Step
        The steps that this plan has
    """
    return tuple(_steps(found, units))


def _steps(found: Evaluation, units: System) -> Iterator[Step]:
    plan = found.plan
    bases, holes = bases_of(found), holes_of(found)
    pieces = sum(len(need.pieces) for need in pipe_pieces(found))
    beds = [v for v in plan.vessels if v.media is not None]
    water = sum(result.rest_volume for result in found.vessels.values())
    yield Step(
        "strings",
        "String it out",
        "Stake every vessel out on the ground as the ground plan shows, and walk round it. Move "
        "what is in the way now.",
        "",
        1.0,
    )
    dug = sum(b.dug for b in bases)
    dig = f" {show(dug, 'volume', units)} of earth are dug out." if dug > 0.0 else ""
    yield Step(
        "bases",
        "Bases and stands",
        f"{len(bases)} bases by string and bubble level, each to 5 mm.{dig}",
        "Shore a pit that a person steps into. An engineer checks loads on a deck or roof.",
        _A_BASE * len(bases),
    )
    yield Step(
        "dry",
        "Vessels in place, dry",
        "Set all vessels in place and measure each again: second-hand ones differ. Change the plan "
        "if one is more than 10 mm off.",
        "Two people, or a trolley, for anything over 25 kg. Never use a container that held "
        "something harmful to fish or people.",
        0.5 * len(plan.vessels),
    )
    yield Step(
        "drill",
        "Drill and seal",
        f"{len(holes)} holes as the table shows, then their wall fittings.",
        "Goggles. A scrap of the same wall first.",
        _A_HOLE * len(holes),
    )
    yield Step(
        "fit",
        "Cut and fit, dry",
        f"{pieces} pieces of pipe by the cut list. Fit all dry, mark each joint across with a pen.",
        "Gloves and goggles at the saw.",
        _A_PIECE * pieces,
    )
    yield Step(
        "leaks",
        "Leak test of each vessel",
        "Fill each vessel to its high mark and leave it for 24 h. Its level must not move.",
        "",
        1.0,
    )
    yield Step(
        "glue",
        "Glue",
        "Glue joint by joint to the marks; leave unions and what must come off unglued. Leave it "
        "to cure as long as the tin says.",
        "Cement and primer want fresh air and no flame.",
        _A_PIECE * pieces,
    )
    flow = sum(duty.flow for duty in found.duties.values())
    yield Step(
        "fill",
        "Fill",
        f"{show(water, 'volume', units)} of water in all, to the marks for power off: "
        f"{show(water / _TAP, 'time', units)} from a tap that fills a bucket of 10 L in 40 s. Let "
        "tap water stand for a day, or take its chlorine out.",
        "A full vessel must not be moved.",
        2.0,
    )
    told = (
        f" All pumps together move {show(flow, 'flow', units)}; {_draws(found, units)}"
        if flow > 0.0
        else ""
    )
    yield Step(
        "start",
        "Pumps on",
        "Set the valves as the table shows and switch on. Watch the lowest vessel as it falls."
        f"{told}",
        "Residual-current protection on each circuit, drip loops on each cord; a licensed "
        "electrician for anything fixed.",
        0.5,
    )
    for bed in found.beds:
        cycle = bed.cycle
        if cycle.fill_time is None or cycle.drain_time is None:
            continue
        yield Step(
            f"wet-{bed.bed.id}",
            f"Wet test of {bed.bed.name}, without media",
            "Bell off: the water stands at the rim of the standpipe. Bell on: it starts by itself. "
            f"With media it fills in {show(cycle.fill_time, 'time', units)} and drains in "
            f"{show(cycle.drain_time, 'time', units)}; without media{_bare(bed.bed)}. If it "
            "trickles, turn the elbow at its end up; if it does not stop, down.",
            "",
            _A_BED,
        )
    if beds:
        heap = sum(
            v.shape.holds(v.media.top) - v.shape.holds(v.media.bottom)
            for v in beds
            if v.media is not None
        )
        yield Step(
            "media",
            "Media in",
            f"{show(heap, 'volume', units)} of media, washed. Unwashed ones cloud the water for 7 "
            "to 10 days.",
            "Lift with your knees: wet gravel is heavy.",
            _A_BED * len(beds),
        )
    yield Step(
        "buckets",
        "Measure it",
        "Bucket, cycles, levels and watts as the card of the first day asks. Outside its limits, "
        "find out why.",
        "",
        1.5,
    )
    yield Step(
        "cut",
        "Power cut, done for real",
        "Pull the plug and wait until all water is still. Nothing may overflow; compare with the "
        "marks. A towel at hand.",
        "Pull the plug itself with dry hands.",
        1.0,
    )
    yield Step(
        "week",
        "Run it for a week",
        "Without fish. Look for drips every day and tighten what weeps.",
        "",
        1.0,
    )
    yield Step(
        "cycling",
        "Cycle it, then fish",
        "Feed the bacteria until ammonia and nitrite are gone within a day, as the bench of fish "
        "and water tells; then the first fish.",
        "Ask what fish are allowed where you live.",
        2.0,
    )


def _bare(bed: Vessel) -> str:
    """How much longer a bed takes without its media."""
    if bed.media is None:
        return " as long"
    return f" about {1.0 / bed.media.void_fraction:.1f} times as long"


def _draws(found: Evaluation, units: System) -> str:
    """How far vessels with a pump fall when it starts."""
    rows = []
    for vessel in dict.fromkeys(p.stands_in for p in found.plan.pumps):
        levels = found.vessels[vessel].levels
        fall = levels.at_rest - levels.low
        if fall > 0.0:
            rows.append(f"{found.plan.vessel(vessel).name} falls by {show(fall, 'length', units)}")
    return f"{', '.join(rows)}." if rows else "watch their levels."
