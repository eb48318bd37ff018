"""From a plan's runs and pumps to lines and curves."""

import math
from collections.abc import Iterator
from functools import lru_cache
from threading import Lock
from typing import NamedTuple

from cachetools import LRUCache
from fluids import ft_Crane

from bathys.network.lines import Line, Piece
from bathys.parts.fittings import EXIT_LOSS, JUNCTIONS, MOUTHS
from bathys.physics.pump_curve import PumpCurve, ScaledCurve, ThrottledCurve
from bathys.plan.model import Plan
from bathys.plan.pipes import Junction, Run
from bathys.plan.pumps import Pump

__all__ = [
    "NARROWEST_SHARE",
    "before_crest",
    "curve_of_pump",
    "fouled_bore",
    "holds_back",
    "line_of_run",
    "run_length",
    "start_height",
    "stops_backflow",
]

NARROWEST_SHARE = 0.1
"""A film never takes more than this leaves of the bore: thinner, the line counts as blocked."""


def run_length(plan: Plan, run: Run) -> float:
    """Length of pipe in a run: along the level plus the difference in height of its ends.

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        One of its runs

    Returns
    -------
    float
        Length, [m]
    """
    end = plan.elevation(run.end)
    assert end is not None  # noqa: S101 - a plan's runs end at ports and junctions
    return run.level_length + abs(end - start_height(plan, run))


def start_height(plan: Plan, run: Run) -> float:
    """Height over the datum at which a run leaves its port, junction, pump or outlet [m].

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        The run

    Returns
    -------
    float
        The height, [m]
    """
    height = plan.elevation(run.start)
    if height is not None:
        return height
    part = plan.part(run.source)
    floor = plan.vessel(part.stands_in).floor_height
    if isinstance(part, Pump):
        return floor + part.inlet_height
    return floor + float(part.leaves_at(run.bore.inside))


def fouled_bore(run: Run) -> float:
    """Inside diameter left by the film on a run's wall [m].

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    float
        The bore, [m]
    """
    return max(run.bore.inside - 2.0 * run.wall.thickness, NARROWEST_SHARE * run.bore.inside)


def holds_back(run: Run) -> bool:
    """Whether a check valve or a foot valve stands in a run.

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    bool
        Whether one does
    """
    return any(f.holds_back for f in run.fittings)


def stops_backflow(run: Run) -> bool:
    """Whether no water can run back out of the vessel a pumped run ends in: a check valve holds it,
    or an air hole breaks its siphon.

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    bool
        Whether none can
    """
    return run.air_hole or holds_back(run)


def line_of_run(plan: Plan, run: Run, viscosity: float) -> Line:
    """What a run loses, piece by piece, with its exit counted once.

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        One of its runs
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    Line
        Strainer or mouth, pipe, fittings, valve, its share of the junctions, and exit
    """
    bore = fouled_bore(run)
    around = _Around(
        run_length(plan, run),
        viscosity,
        (*_entry_pieces(plan, run, bore),),
        (*_exit_pieces(plan, run, bore),),
    )
    with _lock:
        kept = _lines.get(id(run))
        if kept is not None and kept[0] is run and kept[1] == around:
            return kept[2]
    line = Line([*around.entry, *_own_pieces(run, bore, around), *around.exit], viscosity)
    with _lock:
        _lines[id(run)] = (run, around, line)
    return line


class _Around(NamedTuple):
    """What a run's line hangs on besides the run itself."""

    length: float
    viscosity: float
    entry: tuple[Piece, ...]
    exit: tuple[Piece, ...]


# An edit leaves most runs of a plan as they are: their lines serve again. A run is held as long as
# its line, so that its id is that of no other.
_lines: LRUCache[int, tuple[Run, _Around, Line]] = LRUCache(maxsize=2048)
_lock = Lock()


def _own_pieces(run: Run, bore: float, around: _Around) -> Iterator[Piece]:
    label = f"pipe of {run.id}"
    yield Piece("friction", label, bore, length=around.length, roughness=run.wall.roughness)
    if run.filter is not None:
        yield _filter_piece(run, around.viscosity)
    for fitting in run.fittings:
        loss = fitting.count * fitting.loss_of_one(bore)
        yield Piece("fitting", fitting.label, bore, loss=loss)
    if run.valve is not None:
        yield Piece("valve", run.valve.words, bore, loss=run.valve.loss)
    if run.is_usually_shut:
        yield Piece("valve", "shut by its clock most of the time", bore, loss=math.inf)


def _filter_piece(run: Run, viscosity: float) -> Piece:
    assert run.filter is not None  # noqa: S101 - only asked of runs with one
    linear, squared = run.filter.resistance(viscosity)
    return Piece(
        "filter",
        run.filter.CHOICE,
        run.bore.inside,
        linear=linear,
        squared=squared,
        most=run.filter.most_head,
    )


def before_crest(run: Run, line: Line) -> tuple[Line, tuple[Piece, ...]]:
    """A run that drains a vessel, parted at its crest: a filter that stands in the vessel raises
    the water there, whatever becomes of it behind.

    Parameters
    ----------
    run : Run
        The run
    line : Line
        All that it loses

    Returns
    -------
    (Line, tuple of Piece)
        What it loses from its crest on, and the pieces before that
    """
    if run.filter is None or run.filter.STANDS != "before":
        return line, ()
    first = tuple(p for p in line.pieces if p.kind == "filter")
    return Line([p for p in line.pieces if p.kind != "filter"], line.viscosity), first


def _entry_pieces(plan: Plan, run: Run, bore: float) -> list[Piece]:
    part = plan.part(run.source)
    if isinstance(part, Pump):
        loss = part.strainer_loss
        return [Piece("strainer", "pump strainer", bore, loss=loss)] if loss > 0.0 else []
    if isinstance(part, Junction):
        return _leg(plan, part, run, bore)
    port = plan.port(run.start)
    if port is not None:
        return [Piece("fitting", "mouth in the wall", bore, loss=MOUTHS[port.mouth])]
    return []


def _exit_pieces(plan: Plan, run: Run, bore: float) -> list[Piece]:
    part = plan.part(run.target)
    if isinstance(part, Junction):
        if plan.is_outfall(part.id):
            return [Piece("velocity", "jet at the outlet", bore, loss=EXIT_LOSS)]
        legs = _leg(plan, part, run, bore)
        # A drain that drops into a plain joint gives up its velocity head there; what a tee or a
        # wye costs counts it already.
        drops = plan.owner_of(run.start) is not None and plan.group_of(run.source) != "pumps"
        if not legs and drops:
            legs = [Piece("velocity", "jet into the joint", bore, loss=EXIT_LOSS)]
        return legs
    if run.ends_in is not None:
        return [
            Piece("opening", label, wide, loss=k) for label, wide, k in run.ends_in.losses(bore)
        ]
    return [Piece("velocity", "jet at the outlet", bore, loss=EXIT_LOSS)]


def _leg(plan: Plan, junction: Junction, run: Run, bore: float) -> list[Piece]:
    """What a run loses where it joins others; the leg that carries all the water loses nothing."""
    arriving, leaving = plan.runs_to(junction.id), plan.runs_from(junction.id)
    common = arriving[0] if len(arriving) == 1 or not leaving else leaving[0]
    if run.id == common.id:
        return []
    kind = JUNCTIONS[junction.kind]
    is_straight = run.id == junction.straight or (
        junction.straight == common.id and len(arriving) + len(leaving) == 2
    )
    way = "straight on" if is_straight else "round the corner"
    diameters = kind.straight if is_straight else kind.branch
    if diameters == 0.0:
        return []
    loss = diameters * _turbulent_factor(round(bore, 6))
    return [Piece("fitting", f"{kind.name}, {way}", bore, loss=loss)]


@lru_cache(maxsize=256)
def _turbulent_factor(bore: float) -> float:
    return float(ft_Crane(bore))


def curve_of_pump(pump: Pump) -> PumpCurve:
    """The curve of a plan's pump as it stands: its dial and its wear counted in.

    Parameters
    ----------
    pump : Pump
        The pump

    Returns
    -------
    PumpCurve
        The curve
    """
    new, speed = pump.curve.law, pump.speed * pump.wear
    turned = new if speed == 1.0 else ScaledCurve(new, speed)
    share = pump.intake_share
    return turned if share == 1.0 else ThrottledCurve(turned, share)
