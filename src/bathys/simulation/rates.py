"""What moves the water at one moment: levels, pumps, lines, weather; compiled.

Everything is written into arrays of the caller, none is made here. What leaves one node enters
another, so water is kept to rounding.
"""

from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_inlined
from bathys.simulation.compiled import HANGS, RUNS, Pumped, Rates, Setup, Weathered
from bathys.simulation.elimination import clear
from bathys.simulation.line_tables import CELLS, LineTables, flow_between

__all__ = ["level_of", "levels_of", "rates_at"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

_BARE = 0.005  # over so much of level a pump goes from drawing water to drawing air [m]
_DREGS = 1e-3  # the last water that weather and transfers take ever more slowly [m³]
_FLOAT_TRAVEL = 0.02  # a float valve is wide open so far below its level [m] (assumed)


@njit_inlined
def level_of(volume: float, n: int, nodes: Any, layers: Any) -> tuple[float, float]:
    """Level of a node [m] and one over its open area there [1/m²].

    Parameters
    ----------
    volume : float
        What the node holds, [m³]
    n : int
        Number of the node
    nodes : object
        Rows of NODE
    layers : object
        Rows of LAYER

    Returns
    -------
    (float, float)
        The level, [m], and one over the area, [1/m²]
    """
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
    """Level of every node [m].

    Parameters
    ----------
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    nodes : object
        Rows of NODE
    layers : object
        Rows of LAYER

    Returns
    -------
    array
        The levels, shape (nodes,), [m]
    """
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
    """Rain, evaporation, top-ups and transfers: what enters from and leaves to the last sink."""
    gains, losses, sources, targets, moved, filled, set_levels, most, drawn = outer
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
        one = drawn[k]
        if one < 0:
            rates[n] += most[k] * share
            rates[outside] -= most[k] * share
            if 0.0 < share < 1.0:
                slope = most[k] / _FLOAT_TRAVEL * per_area[n]
                jacobian[n, n] -= slope
                beyond[n] += slope
            continue
        left = min(max(volumes[one] / _DREGS, 0.0), 1.0)
        rates[n] += most[k] * share * left
        rates[one] -= most[k] * share * left
        if 0.0 < share < 1.0:
            slope = most[k] * left / _FLOAT_TRAVEL * per_area[n]
            jacobian[n, n] -= slope
            jacobian[one, n] += slope
        if 0.0 < left < 1.0:
            slope = most[k] * share / _DREGS
            jacobian[one, one] -= slope
            jacobian[n, one] += slope


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

    Parameters
    ----------
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    setup : Setup
        How the plan stands
    guess : array
        Last flow of each line, kept up, shape (flows,), [m³/s]
    found : Rates
        Where to write what is found
    jacobian : array
        How each node's rate moves with what each node holds, shape (nodes, nodes), [1/s]

    Returns
    -------
    int
        The number of the cell to make first, or -1
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
