"""Compiled core of the time simulation: levels through time between two events.

Rosenbrock steps of second order, L-stable (ROS2, γ = 1 − 1/√2; Verwer et al. 1999, SIAM J. Sci.
Comput. 20, memory): small chambers under large flows are stiff, and an explicit step would be
bound by the smallest. Each line's law is the one the steady balance uses, turned round to give a
flow between two levels. What leaves one node enters another in every stage, so water is kept to
rounding.
"""

import math
from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.network.gravity import level_needed

__all__ = ["HANGS", "RUNS", "SPILLS", "advance", "flows_at"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

SPILLS, RUNS, HANGS = 0, 1, 2
"""States of a siphon: over its rim with air in it, full, or gurgling at its intake."""

_GAMMA = 1.0 - 1.0 / math.sqrt(2.0)
_MOST_HALVINGS = 60
_LEAST_STEP = 1e-3  # [s]
_EVENT_TIME = 1e-2  # events are found to this [s]
_MOST_FLOW = 0.5  # [m³/s]
_BARE = 0.005  # over so much of level a pump goes from drawing water to drawing air [m]


@njit(cache=True)
def _layer(marks: Floats, first: int, last: int, value: float) -> int:
    k = first
    while k + 1 < last and marks[k + 1] <= value:
        k += 1
    return k


@njit(cache=True)
def _levels(volumes: Floats, start: Places, marks: Floats, held: Floats, areas: Floats,
            floors: Floats) -> tuple[Floats, Floats]:  # fmt: skip
    """Level of each node [m] and its open area there [m²]."""
    levels, area = np.empty(floors.size), np.empty(floors.size)
    for n in range(floors.size):
        k = _layer(held, start[n], start[n + 1], volumes[n])
        levels[n] = floors[n] + marks[k] + (volumes[n] - held[k]) / areas[k]
        area[n] = areas[k]
    return levels, area


@njit(cache=True)
def _line_flow(
    i: int, up: float, down: float, guess: float, laws: Any
) -> tuple[float, float, float]:
    """Flow through one line and its slopes against both levels [m²/s]."""
    least, _, _ = level_needed(0.0, down, i, *laws)
    if up <= least:
        return 0.0, 0.0, 0.0
    low, high = 0.0, _MOST_FLOW
    q = min(max(guess, 1e-8), _MOST_FLOW)
    slope, moves = 1.0, 0.0
    for _ in range(_MOST_HALVINGS):
        need, slope, moves = level_needed(q, down, i, *laws)
        off = up - need
        if abs(off) < 1e-9 or high - low < 1e-13:
            break
        low, high = (q, high) if off > 0.0 else (low, q)
        step = q + off / slope
        q = step if low < step < high else (0.5 * (low + high) if low > 0.0 else 0.1 * high)
    return q, 1.0 / slope, -moves / slope


@njit(cache=True)
def flows_at(
    volumes: Floats, guess: Floats, use: Any, vessels: Any, lines: Any, laws: Any, pumped: Any
) -> tuple[Floats, Floats, Floats, Floats, Floats]:
    """Rates of every node [m³/s], their Jacobian [1/s], the flow of each line [m³/s], what the
    siphons' beds get [m³/s], and the levels [m]. The last node is the outside, which only takes."""
    start, marks, held, areas, floors = vessels
    begins, ends = lines
    modes, running, spilling, beds, taps = use
    sources, outlets, tables, low, step, inlets = pumped
    count = floors.size
    levels, area = _levels(volumes, start, marks, held, areas, floors)
    rates, jacobian = np.zeros(count + 1), np.zeros((count + 1, count + 1))
    flows = np.zeros(begins.size)
    for k in range(outlets.size):
        node, source = outlets[k], sources[k]
        place = min(max((levels[source] - low[k]) / step[k], 0.0), tables.shape[1] - 1.001)
        cell = int(place)
        slope = (tables[k, cell + 1] - tables[k, cell]) / step[k]
        q = tables[k, cell] + slope * (levels[source] - low[k] - cell * step[k])
        if place == 0.0:
            q, slope = tables[k, 0], 0.0
        over = (levels[source] - inlets[k]) / _BARE
        if q > 0.0 and over < 1.0:  # the pump begins to draw air
            slope = slope * max(over, 0.0) + (q / _BARE if over > 0.0 else 0.0)
            q *= max(over, 0.0)
        rates[source] -= q
        rates[node] += q
        jacobian[source, source] -= slope / area[source]
        jacobian[node, source] += slope / area[source]
    for i in range(begins.size):
        siphon = taps[i]
        if siphon >= 0:
            wanted = running[siphon] if modes[siphon] == RUNS else spilling[siphon]
            if modes[siphon] == HANGS or wanted != i:
                continue
        a, b = begins[i], ends[i]
        down = levels[b] if b < count else -np.inf
        q, by_up, by_down = _line_flow(i, levels[a], down, guess[i], laws)
        flows[i] = q
        rates[a] -= q
        rates[b] += q
        jacobian[a, a] -= by_up / area[a]
        jacobian[b, a] += by_up / area[a]
        if b < count:
            jacobian[a, b] -= by_down / area[b]
            jacobian[b, b] += by_down / area[b]
    inflows = np.zeros(modes.size)
    for s in range(modes.size):
        bed = beds[s]
        out = flows[running[s]] if modes[s] == RUNS else flows[spilling[s]]
        inflows[s] = rates[bed] + (0.0 if modes[s] == HANGS else out)
        if modes[s] == HANGS and inflows[s] > 0.0:
            q = inflows[s]
            flows[running[s]] = q
            rates[bed] -= q
            rates[ends[running[s]]] += q
    return rates, jacobian, flows, inflows, levels


@njit(cache=True)
def _step(
    volumes: Floats, h: float, guess: Floats, use: Any, vessels: Any, lines: Any, laws: Any,
    pumped: Any,
) -> tuple[Floats, float, Floats, Floats, Floats]:  # fmt: skip
    """One step: volumes after it, an estimate of its error [m³], and the flows at its start."""
    rates, jacobian, flows, inflows, levels = flows_at(
        volumes, guess, use, vessels, lines, laws, pumped
    )
    matrix = np.eye(rates.size) - _GAMMA * h * jacobian
    one = np.linalg.solve(matrix, rates)
    ahead = flows_at(volumes + h * one, flows, use, vessels, lines, laws, pumped)[0]
    two = np.linalg.solve(matrix, ahead - 2.0 * one)
    after = volumes + h * (1.5 * one + 0.5 * two)
    error = 0.5 * h * np.max(np.abs(one[:-1] + two[:-1]))
    return after, error, flows, inflows, levels


@njit(cache=True)
def advance(
    volumes: Floats, time: float, until: float, h: float, tolerance: float,
    watch_nodes: Places, watch_levels: Floats, watch_signs: Floats, use: Any, vessels: Any,
    lines: Any, laws: Any, pumped: Any, every: float, samples: Floats, filled: int,
) -> tuple[Floats, float, float, int, int, int]:  # fmt: skip
    """Go on until a time, or until a watched level is passed; whichever comes first.

    Gives volumes, time, the next step, the watch that was passed (-1 for none), how many samples
    are filled, and how many steps were taken. A sample is the time and every level.
    """
    start, marks, held, areas, floors = vessels
    guess = np.full(lines[0].size, 1e-5)
    steps = 0
    before, _ = _levels(volumes, start, marks, held, areas, floors)
    while time < until - 1e-9:
        h = min(h, until - time)
        after, error, guess, _, _ = _step(volumes, h, guess, use, vessels, lines, laws, pumped)
        steps += 1
        if error > tolerance and h > _LEAST_STEP:
            h = max(0.9 * h * math.sqrt(tolerance / error), 0.2 * h, _LEAST_STEP)
            continue
        levels, _ = _levels(after, start, marks, held, areas, floors)
        hit, share = -1, 1.0
        for w in range(watch_nodes.size):
            n = watch_nodes[w]
            one = watch_signs[w] * (before[n] - watch_levels[w])
            two = watch_signs[w] * (levels[n] - watch_levels[w])
            if one < 0.0 <= two and -one / (two - one) < share:
                hit, share = w, -one / (two - one)
        if hit >= 0 and h * share > _EVENT_TIME and h > 2.0 * _EVENT_TIME and share < 0.999:
            h = max(h * share, _EVENT_TIME)  # again, to just this side or that of the event
            if h * (1.0 - share) > _EVENT_TIME:
                continue
        while filled < samples.shape[0] and filled * every <= time + h:
            part = min(max((filled * every - time) / h, 0.0), 1.0)
            samples[filled, 0] = filled * every
            samples[filled, 1:] = before + part * (levels - before)
            filled += 1
        volumes, time, before = after, time + h, levels
        grow = 0.9 * math.sqrt(tolerance / max(error, 1e-3 * tolerance))
        h = min(h * min(max(grow, 0.3), 3.0), 600.0)
        if hit >= 0:
            return volumes, time, h, hit, filled, steps
    return volumes, time, h, -1, filled, steps
