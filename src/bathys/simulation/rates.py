"""What moves the water at one moment: levels, pumps, lines, weather; compiled.

Everything is written into arrays of the caller, none is made here. What leaves one node enters
another, so water is kept to rounding.
"""

from typing import Any, NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_inlined, record_of
from bathys.simulation.elimination import Structure, clear
from bathys.simulation.line_tables import CELLS, LineTables, flow_between

__all__ = [
    "END",
    "HANGS",
    "LAYER",
    "NODE",
    "RUNS",
    "SIPHON",
    "SPILLS",
    "Compiled",
    "Pumped",
    "Rates",
    "Setup",
    "Weathered",
    "level_of",
    "levels_of",
    "rates_at",
]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

SPILLS, RUNS, HANGS = 0, 1, 2
"""States of a siphon: over its rim with air in it, full, or gurgling at its intake."""

_BARE = 0.005  # over so much of level a pump goes from drawing water to drawing air [m]
_DREGS = 1e-3  # the last water that weather and transfers take ever more slowly [m³]
_FLOAT_TRAVEL = 0.02  # a float valve is wide open so far below its level [m] (assumed)

NODE: Any = record_of([("first", np.int64), ("last", np.int64), ("floor", np.float64)])
"""A node: its first layer, the one after its last, and its floor over the datum [m]."""
LAYER: Any = record_of([("held", np.float64), ("height", np.float64), ("per_area", np.float64)])
"""A layer of a node: water below it [m³], its height over the floor [m], one over its area."""
SIPHON: Any = record_of(
    [
        ("full", np.int64),  # its line when full
        ("spill", np.int64),  # its line with air in it
        ("bed", np.int64),  # the node it stands in
        ("starts", np.float64),  # level at which it starts [m]
        ("intake", np.float64),  # level of its intake [m]
        ("share", np.float64),  # it breaks if no more comes than this share of what it passes
        ("never_breaks", np.int64),
    ]
)
"""A siphon, or another way out with two states."""
END: Any = record_of(
    [
        ("source", np.int64),  # node the pump draws from
        ("node", np.int64),  # node it ends in, -1 for the outside
        ("is_alone", np.int64),  # only the difference of two levels counts
        ("inlet", np.float64),  # level at which the pump draws air [m]
        ("mouth", np.float64),  # level at which its end bares [m]
        ("answer", np.float64),  # how much less it brings for each metre more over it [m²/s]
        ("told", np.float64),  # level over it that the table is for [m]
    ]
)
"""An end of a run under pressure."""


class Pumped(NamedTuple):
    """What pumps bring.

    Attributes
    ----------
    ends : array of END
        Ends of runs under pressure, shape (ends,)
    grid, flows : array
        Levels of the source [m] and the flow at each [m³/s], shape (ends, points)
    """

    ends: Any
    grid: Floats
    flows: Floats


class Weathered(NamedTuple):
    """What comes from outside and goes there.

    Attributes
    ----------
    gains, losses : array
        Rain and evaporation of each node, [m³/s]
    sources, targets, moved : array
        Transfers under way: from, to, [m³/s]
    filled, set_levels, most : array
        Float valves: node, level, [m], flow wide open, [m³/s]
    """

    gains: Floats
    losses: Floats
    sources: Places
    targets: Places
    moved: Floats
    filled: Places
    set_levels: Floats
    most: Floats

    @property
    def moves_any(self) -> bool:
        """Whether anything comes or goes."""
        steady = np.any(self.gains != 0.0) or np.any(self.losses != 0.0)
        return bool(steady or self.sources.size or self.filled.size)


class Compiled(NamedTuple):
    """A plan as the compiled core reads it.

    Attributes
    ----------
    nodes : array of NODE
        Vessels and junctions, shape (nodes,)
    layers : array of LAYER
        Their storage
    siphons : array of SIPHON
        All with two states
    lines : LineTables
        Lines and their laws
    laws : tuple
        The laws the tables are made from
    structure : Structure
        Which nodes feel each other
    """

    nodes: Any
    layers: Any
    siphons: Any
    lines: LineTables
    laws: tuple[Any, ...]
    structure: Structure


class Setup(NamedTuple):
    """How a plan stands between two events.

    Attributes
    ----------
    compiled : Compiled
        The plan
    modes : array of int
        State of each siphon
    pumped : Pumped
        What the pumps bring
    outer : Weathered
        What comes from outside and goes there
    has_weather : bool
        Whether anything does
    """

    compiled: Compiled
    modes: Places
    pumped: Pumped
    outer: Weathered
    has_weather: bool


class Rates(NamedTuple):
    """What :func:`rates_at` finds at one moment.

    Attributes
    ----------
    rates : array
        How fast each node and sink gains, [m³/s]
    flows : array
        Of each line, then of each end under pressure, [m³/s]
    tangents : array
        How each flow moves with the water upstream and downstream, shape (flows, 2), [1/s]
    levels, per_area : array
        Level of each node, [m], and one over its open area there, [1/m²]
    outside : array
        How the outside's gain moves with the water of each node, weather alone, [1/s]
    inflows : array
        What comes to each siphon's bed, [m³/s]
    """

    rates: Floats
    flows: Floats
    tangents: Floats
    levels: Floats
    per_area: Floats
    outside: Floats
    inflows: Floats


@njit_inlined
def level_of(volume: float, n: int, nodes: Any, layers: Any) -> tuple[float, float]:
    """Level of a node [m] and one over its open area there [1/m²]."""
    k, last = nodes[n].first, nodes[n].last
    while k + 1 < last and layers[k + 1].held <= volume:
        k += 1
    layer = layers[k]
    return (
        nodes[n].floor + layer.height + (volume - layer.held) * layer.per_area,
        layer.per_area,
    )


@njit(cache=True)
def levels_of(volumes: Floats, nodes: Any, layers: Any) -> Floats:
    """Level of every node [m]."""
    levels = np.empty(nodes.size)
    for n in range(nodes.size):
        levels[n] = level_of(volumes[n], n, nodes, layers)[0]
    return levels


@njit_inlined
def _add_pumps(pumped: Pumped, first: int, found: Rates, jacobian: Floats) -> None:
    """What each end under pressure brings to its vessel, taken from its table.

    An end that is alone feels only the difference of the source's level and that over it, or in
    the air its mouth, so that its table is read at the source's level less what the other has
    risen; of several each answers by its slope.
    """
    ends, grid, tables = pumped
    rates, flows, tangents = found.rates, found.flows, found.tangents
    levels, per_area = found.levels, found.per_area
    for k in range(ends.size):
        end = ends[k]
        node, source = end.node, end.source
        is_outside = node < 0
        at, risen, felt = levels[source], 0.0, 1.0
        if end.is_alone != 0:
            felt = 1.0 if levels[node] > end.mouth else 0.0
            at -= max(levels[node], end.mouth) - end.told
        elif not is_outside:
            risen = levels[node] - end.told
        cell = 0
        while cell + 2 < grid.shape[1] and grid[k, cell + 1] <= at:
            cell += 1
        slope = (tables[k, cell + 1] - tables[k, cell]) / (grid[k, cell + 1] - grid[k, cell])
        q = tables[k, cell] + slope * (at - grid[k, cell])
        if at <= grid[k, 0]:
            q, slope = tables[k, 0], 0.0
        q -= end.answer * risen
        answer = felt * slope if end.is_alone != 0 else end.answer
        if q > 0.0:
            over = (levels[source] - end.inlet) / _BARE
            if over < 1.0:  # the pump begins to draw air
                share = max(over, 0.0)
                slope = slope * share + (q / _BARE if over > 0.0 else 0.0)
                q, answer = q * share, answer * share
        else:
            over = -1.0 if is_outside else (levels[node] - end.mouth) / _BARE
            if over < 1.0:  # a mouth that siphons back is baring
                share = max(over, 0.0)
                answer = answer * share - (q / _BARE if over > 0.0 else 0.0)
                q, slope = q * share, slope * share
        flows[first + k] = q
        by_source = slope * per_area[source]
        rates[source] -= q
        tangents[first + k, 0], tangents[first + k, 1] = by_source, 0.0
        jacobian[source, source] -= by_source
        if is_outside:
            rates[rates.size - 1] += q
            continue
        by_node = answer * per_area[node]
        rates[node] += q
        tangents[first + k, 1] = -by_node
        jacobian[node, source] += by_source
        jacobian[source, node] += by_node
        jacobian[node, node] -= by_node


@njit_inlined
def _add_weather(
    volumes: Floats, outer: Weathered, count: int, found: Rates, jacobian: Floats
) -> None:
    """Rain, evaporation, top-ups and transfers: what comes from and goes to the last sink."""
    gains, losses, sources, targets, moved, filled, set_levels, most = outer
    rates, levels, per_area, beyond = found.rates, found.levels, found.per_area, found.outside
    outside = rates.size - 1
    for n in range(count):
        share = min(max(volumes[n] / _DREGS, 0.0), 1.0)
        net = gains[n] - losses[n] * share
        rates[n] += net
        rates[outside] -= net
        if 0.0 < share < 1.0:
            jacobian[n, n] -= losses[n] / _DREGS
            beyond[n] += losses[n] / _DREGS
    for k in range(sources.size):
        one, two = sources[k], targets[k]
        share = min(max(volumes[one] / _DREGS, 0.0), 1.0)
        rates[one] -= moved[k] * share
        rates[two] += moved[k] * share
        if 0.0 < share < 1.0:
            slope = moved[k] / _DREGS
            jacobian[one, one] -= slope
            if two < count:
                jacobian[two, one] += slope
            else:
                beyond[one] += slope
    for k in range(filled.size):
        n = filled[k]
        short = (set_levels[k] - levels[n]) / _FLOAT_TRAVEL
        share = min(max(short, 0.0), 1.0)
        rates[n] += most[k] * share
        rates[outside] -= most[k] * share
        if 0.0 < share < 1.0:
            slope = most[k] / _FLOAT_TRAVEL * per_area[n]
            jacobian[n, n] -= slope
            beyond[n] += slope


@njit_inlined
def _add_lines(
    modes: Places,
    siphons: Any,
    tables: LineTables,
    count: int,
    guess: Floats,
    found: Rates,
    jacobian: Floats,
) -> int:
    """What each line carries. A cell that has to be made first is told as its number among all
    cells; else -1."""
    lines = tables.lines
    rates, flows, tangents = found.rates, found.flows, found.tangents
    levels, per_area = found.levels, found.per_area
    for i in range(lines.size):
        line = lines[i]
        flows[i], tangents[i, 0], tangents[i, 1] = 0.0, 0.0, 0.0
        if line.siphon >= 0:
            mode, siphon = modes[line.siphon], siphons[line.siphon]
            if mode == HANGS or (siphon.full if mode == RUNS else siphon.spill) != i:
                continue
        a, b = line.begin, line.end
        if levels[a] <= line.dry:
            continue
        down = levels[b] if b < count else -np.inf
        q, slope, moves, cell = flow_between(i, levels[a], down, guess[i], tables)
        if cell >= 0:
            return i * CELLS + cell
        if q <= 0.0:
            continue
        flows[i] = guess[i] = q
        by_up = per_area[a] / slope
        rates[a] -= q
        rates[b] += q
        tangents[i, 0] = by_up
        jacobian[a, a] -= by_up
        if b < count:
            by_down = -moves / slope * per_area[b]
            tangents[i, 1] = by_down
            jacobian[b, a] += by_up
            jacobian[a, b] -= by_down
            jacobian[b, b] += by_down
    return -1


@njit_inlined
def rates_at(volumes: Floats, setup: Setup, guess: Floats, found: Rates, jacobian: Floats) -> int:
    """Everything that moves water at one moment, into ``found`` and ``jacobian``.

    Sinks come after the nodes: what runs over each rim, what fills the pumped runs, the outside.
    A cell of a line's table that has to be made first is told as its number among all cells, and
    nothing else then holds; else -1. ``guess`` holds each line's last flow and is kept up.
    """
    plan, modes = setup.compiled, setup.modes
    nodes, siphons, structure = plan.nodes, plan.siphons, plan.structure
    rates, flows = found.rates, found.flows
    for n in range(nodes.size):
        found.levels[n], found.per_area[n] = level_of(volumes[n], n, nodes, plan.layers)
        found.outside[n] = 0.0
    for n in range(rates.size):
        rates[n] = 0.0
    clear(jacobian, structure.near, structure.counts)
    missing = _add_lines(modes, siphons, plan.lines, nodes.size, guess, found, jacobian)
    if missing >= 0:
        return missing
    lines = plan.lines.lines
    _add_pumps(setup.pumped, lines.size, found, jacobian)
    if setup.has_weather:
        _add_weather(volumes, setup.outer, nodes.size, found, jacobian)
    for s in range(siphons.size):
        siphon = siphons[s]
        bed, mode = siphon.bed, modes[s]
        out = flows[siphon.full] if mode == RUNS else flows[siphon.spill]
        found.inflows[s] = rates[bed] + (0.0 if mode == HANGS else out)
        if mode == HANGS and found.inflows[s] > 0.0:
            q = found.inflows[s]
            flows[siphon.full] = q
            rates[bed] -= q
            rates[lines[siphon.full].end] += q
    return -1
