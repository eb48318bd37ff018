"""The steady cycle of one siphon bed, or the reason why it has none."""

from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bathys.halving import greatest, least
from bathys.simulation.loop import PumpedBedLoop
from bathys.simulation.siphon import Window
from bathys.simulation.steady_inflow import EvenlyFedBed

__all__ = [
    "SLOW_SHARE",
    "Cycle",
    "Trace",
    "Verdict",
    "nodes_between",
    "run_cycle",
    "time_between",
    "unevenly_fed",
]

Floats = NDArray[np.float64]
BedLoop = PumpedBedLoop | EvenlyFedBed

Verdict = Literal[
    "cycles",
    "slow",
    "never_starts",
    "holds",
    "hangs",
    "overflows",
    "starved",
    "no_inflow",
    "leaks",
    "uneven",
]

SLOW_SHARE = 1.05
"""An inflow within this of the start flow starts the siphon late and unsurely (derived: the
time over the rim grows as a logarithm)."""

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(6)
_SHARES = np.arange(12) / 12  # where the panels of a stretch begin
_NO_LEAK = 1e-3  # a share of the inflow that is no leak worth the name
_HALVINGS = 50  # of a bracket of a metre: far below a nanometre


@dataclass(frozen=True, slots=True)
class Trace:
    """Levels through one cycle, for drawing.

    Attributes
    ----------
    times : tuple of float
        From the break, [s]
    bed_levels : tuple of float
        Over the bed's floor, [m]
    tank_levels : tuple of float
        Over the datum, [m]
    """

    times: tuple[float, ...]
    bed_levels: tuple[float, ...]
    tank_levels: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Cycle:
    """What a siphon bed does. Times and volumes are none where it does not cycle.

    Attributes
    ----------
    verdict : str
        What happens
    window : Window
        Inflows that work, [m³/s]
    start_inflow, break_inflow : float
        Inflow as it should start and as it should break, [m³/s]
    mean_inflow : float
        Inflow over the whole cycle, [m³/s]
    bed_low, bed_high : float
        Lowest and highest bed level over its floor, [m]
    tank_low, tank_high : float
        Lowest and highest tank level over the datum, [m]
    peak_flow : float
        Greatest flow of the siphon, [m³/s]
    fill_time, drain_time : float or None
        From break to start and from start to break, [s]
    exchanged : float or None
        Water the siphon carries in one cycle, [m³]
    crown_head : float or None
        Pressure head at the crown as it starts, [m]
    trace : Trace or None
        Levels through the cycle
    """

    verdict: Verdict
    window: Window
    start_inflow: float
    break_inflow: float
    mean_inflow: float
    bed_low: float
    bed_high: float
    tank_low: float
    tank_high: float
    peak_flow: float = 0.0
    fill_time: float | None = None
    drain_time: float | None = None
    exchanged: float | None = None
    crown_head: float | None = None
    trace: Trace | None = None

    @property
    def period(self) -> float | None:
        """Time of one whole cycle [s]."""
        if self.fill_time is None or self.drain_time is None:
            return None
        return self.fill_time + self.drain_time


def nodes_between(edges: Floats) -> Floats:
    """Levels at which :func:`time_between` wants to know area and net inflow.

    Parameters
    ----------
    edges : array
        Levels in the order they are passed, [m]

    Returns
    -------
    array
        Gauss–Legendre nodes of each stretch, shape (stretches, nodes), [m]
    """
    middle, half = 0.5 * (edges[1:] + edges[:-1]), 0.5 * (edges[1:] - edges[:-1])
    return np.asarray(middle[:, None] + half[:, None] * _NODES)


def time_between(edges: Floats, areas: Floats, net_inflow: Floats) -> Floats:
    """Time for a level to pass from each edge to the next: ∫ A dh / Q_net, by Gauss–Legendre.

    Parameters
    ----------
    edges : array
        Levels in the order they are passed, [m]
    areas : array
        Water areas at the nodes of :func:`nodes_between`, [m²]
    net_inflow : array
        Flow in less flow out there [m³/s]; its sign is that of the level's motion

    Returns
    -------
    array
        Time of each node, shape (stretches, nodes), [s]: a stretch takes the sum of its own, and
        anything else is integrated over time by the same weights
    """
    half = 0.5 * (edges[1:] - edges[:-1])
    return np.asarray(half[:, None] * _WEIGHTS * areas / net_inflow)


def _edges(loop: BedLoop, low: float, high: float) -> Floats:
    """Panel edges between two levels, none of them straddling a change of area or of law."""
    port = loop.outlet - loop.bed.floor_height
    kinks = {h for h in (*loop.bed_storage.heights, loop.built.rim, port) if low < h < high}
    marks = sorted({low, high} | kinks)
    pieces = [a + (b - a) * _SHARES for a, b in pairwise(marks)]
    return np.concatenate([*pieces, [high]])


def _crowded(edges: Floats, end: float) -> Floats:
    """Edges drawn towards the end, where the net inflow may nearly vanish."""
    extra = end - (end - edges[-2]) * 0.5 ** np.arange(1, 12)
    return np.concatenate([edges[:-1], extra, edges[-1:]])


def _settled(loop: BedLoop, level: float, verdict: Verdict, window: Window) -> Cycle:
    inflow = float(loop.inflow(level))
    tank = float(loop.tank_level(level))
    return Cycle(
        verdict,
        window,
        inflow,
        float(loop.inflow(loop.built.intake)),
        inflow,
        level,
        level,
        tank,
        tank,
        peak_flow=inflow,
    )


def _starved(loop: BedLoop, window: Window) -> Cycle:
    """The pump has drawn its vessel down to its inlet; nothing more flows."""
    built = loop.built
    stands = greatest(
        lambda level: float(loop.tank_level(level)) > loop.inlet,
        built.intake,
        built.priming_level,
        _HALVINGS,
    )
    still = _settled(loop, stands, "starved", window)
    return replace(still, mean_inflow=0.0, peak_flow=0.0)


def _stalled(loop: BedLoop, window: Window) -> Cycle:
    """The tank has fallen to where the pump lifts no more, before the bed is full."""
    built = loop.built
    stands = least(
        lambda level: float(loop.inflow(level)) <= 0.0, built.intake, built.rim, _HALVINGS
    )
    return _settled(loop, stands, "no_inflow", window)


def _leak_level(loop: EvenlyFedBed) -> float | None:
    """Level at which other ways out carry away all that comes, short of starting the siphon; none
    if they never do."""
    if not loop.has_leaks:
        return None
    built = loop.built
    levels = np.linspace(0.0, built.priming_level, 400)
    short = np.flatnonzero(loop.inflow(levels) - built.spill(levels) <= 0.0)
    if not short.size or float(loop.leak(levels[short[0]])) <= _NO_LEAK * loop.gross_inflow:
        return None
    return float(levels[short[0]])


def unevenly_fed(loop: EvenlyFedBed) -> Cycle:
    """A bed whose water comes by turns: what it does hangs on when, and only time shows it.

    Parameters
    ----------
    loop : EvenlyFedBed
        The bed, with the inflow it has while water comes

    Returns
    -------
    Cycle
        Without a cycle; a siphon that its inflow can never start is reported
    """
    cycle = run_cycle(loop)
    if cycle.verdict in ("no_inflow", "never_starts", "leaks"):
        return cycle
    return replace(
        _settled(loop, loop.built.priming_level, "uneven", cycle.window),
        bed_low=loop.built.intake,
        peak_flow=cycle.peak_flow,
    )


def _level_where_passed(loop: BedLoop) -> float | None:
    """Level above the intake at which the running siphon passes the inflow; none below the rim
    of the bed."""
    low, high = loop.built.intake, loop.bed_storage.rim

    def short(level: float) -> bool:
        tank = float(loop.tank_level(level))
        return float(loop.built.full_flow(level, tank)[0]) < float(loop.inflow(level))

    return None if short(high) else least(lambda level: not short(level), low, high, _HALVINGS)


def _rim_level(loop: BedLoop) -> float:
    """Level at which the spill over the rim equals the inflow, short of starting."""
    built = loop.built

    def rises(level: float) -> bool:
        return float(built.spill(np.array([level]))[0]) < float(loop.inflow(level))

    return greatest(rises, built.rim, built.priming_level, _HALVINGS)


def run_cycle(loop: BedLoop) -> Cycle:
    """Steady cycle of a loop.

    Parameters
    ----------
    loop : PumpedBedLoop or EvenlyFedBed
        The bed with what feeds and drains it

    Returns
    -------
    Cycle
        Its times and levels, or why there are none
    """
    built = loop.built
    top = built.priming_level
    window = built.window(float(loop.tank_level(built.intake)))
    at_start, at_break = float(loop.inflow(top)), float(loop.inflow(built.intake))
    if isinstance(loop, EvenlyFedBed) and loop.gross_inflow > 0.0:
        stands = _leak_level(loop)
        if stands is not None:
            return replace(
                _settled(loop, stands, "leaks", window),
                start_inflow=loop.gross_inflow,
                mean_inflow=loop.gross_inflow,
                peak_flow=0.0,
            )
    if at_break <= 0.0:
        return _settled(loop, built.intake, "no_inflow", window)
    if float(loop.tank_level(top)) <= loop.inlet:
        return _starved(loop, window)
    if float(loop.inflow(built.rim)) <= 0.0:
        return _stalled(loop, window)
    if at_start <= window.start.value:
        level = _rim_level(loop)
        if level >= loop.bed_storage.rim:
            return _settled(loop, loop.bed_storage.rim, "overflows", window)
        return _settled(loop, level, "never_starts", window)
    if top >= loop.bed_storage.rim:
        return _settled(loop, loop.bed_storage.rim, "overflows", window)
    if at_break >= window.full_at_intake:
        level_held = _level_where_passed(loop)
        if level_held is None:
            return _settled(loop, loop.bed_storage.rim, "overflows", window)
        return _settled(loop, level_held, "holds", window)
    if at_break > window.stop.value:
        return _settled(loop, built.intake, "hangs", window)
    return _cycling(loop, window, at_start, at_break)


def _cycling(loop: BedLoop, window: Window, at_start: float, at_break: float) -> Cycle:
    """One way up, from the break to the start, and one down. Every law is asked once for all of
    it: a large plan has a dozen beds, and the calls would cost more than the levels."""
    built, storage = loop.built, loop.bed_storage
    top = built.priming_level
    panels = _edges(loop, built.intake, top)
    up = _crowded(panels, top)
    edges = np.concatenate([up, panels[-2::-1]])
    nodes = nodes_between(edges)
    size, summit, rising = nodes.size, up.size - 1, (up.size - 1) * _NODES.size
    levels = np.concatenate([nodes.ravel(), edges])
    inflow, tank = loop.inflow(levels), loop.tank_level(levels)
    running = np.concatenate([np.arange(rising, size), [size + summit, levels.size - 1]])
    full = built.full_flow(levels[running], tank[running])
    outflow = np.concatenate([built.spill(levels[:rising]), full[:-2]])
    net = (inflow[:size] - outflow).reshape(nodes.shape)
    weights = time_between(edges, storage.area(nodes), net)
    times = np.cumsum(weights.sum(axis=1))
    fill, period = float(times[summit - 1]), float(times[-1])
    pumped = float(np.sum(weights * inflow[:size].reshape(nodes.shape)))
    tank = tank[size:]
    slow = at_start < SLOW_SHARE * window.start.value
    return Cycle(
        "slow" if slow else "cycles",
        window,
        at_start,
        at_break,
        pumped / period,
        built.intake,
        top,
        float(tank.min()),
        float(tank.max()),
        float(full[-2:].max()),
        fill,
        period - fill,
        pumped,
        built.crown_head(top, float(full[-2])),
        Trace((0.0, *times.tolist()), tuple(edges.tolist()), tuple(tank.tolist())),
    )
