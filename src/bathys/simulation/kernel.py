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

from bathys.compiling import njit_borrowing
from bathys.network.gravity import LEAST_SLOPE, TAIL_STEP, level_at

__all__ = ["HANGS", "RUNS", "SPILLS", "advance", "flows_at"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

SPILLS, RUNS, HANGS = 0, 1, 2
"""States of a siphon: over its rim with air in it, full, or gurgling at its intake."""

_GAMMA = 1.0 - 1.0 / math.sqrt(2.0)
_MOST_HALVINGS = 60
_LEAST_STEP = 1e-3  # [s]
_RESTART = 0.5  # first step after something has happened [s]
_EVENT_TIME = 1e-2  # events are found to this [s]
_MOST_FLOW = 0.5  # [m³/s]
_LEVEL_CLOSE = 1e-6  # a line's flow is that of its level upstream to within this [m]
_BARE = 0.005  # over so much of level a pump goes from drawing water to drawing air [m]
_HAIR = 1e-7  # so far over its crest a line carries nothing worth a step [m]
_STEEPEST = 2.5  # most of d ln Q / d ln h of any law here: a part-full mouth has 2, a weir 1.5
_DREGS = 1e-3  # the last water that weather and transfers take ever more slowly [m³]
_FLOAT_TRAVEL = 0.02  # a float valve is wide open so far below its level [m] (assumed)


@njit_borrowing
def _layer(marks: Floats, first: int, last: int, value: float) -> int:
    k = first
    while k + 1 < last and marks[k + 1] <= value:
        k += 1
    return k


@njit(cache=True)
def _levels(
    volumes: Floats, start: Places, marks: Floats, held: Floats, areas: Floats, floors: Floats
) -> tuple[Floats, Floats]:
    """Level of each node [m] and its open area there [m²]."""
    levels, area = np.empty(floors.size), np.empty(floors.size)
    for n in range(floors.size):
        k = _layer(held, start[n], start[n + 1], volumes[n])
        levels[n] = floors[n] + marks[k] + (volumes[n] - held[k]) / areas[k]
        area[n] = areas[k]
    return levels, area


@njit_borrowing
def _line_flow(
    i: int, up: float, down: float, q: float, slope: float, dry: float, laws: Any
) -> tuple[float, float, float]:
    """Flow through one line [m³/s], its slope [s/m²] and how its level moves with that downstream.

    A secant from the last flow and slope, held to a bracket: most lines have hardly moved since.
    """
    tail_felt = laws[1][i, 4] - laws[1][i, 1]  # of the outlet and the bore
    threshold = max(dry, down) if down > tail_felt else dry
    if up <= threshold + _HAIR:
        return 0.0, slope, 0.0
    low, high = 0.0, _MOST_FLOW
    q = min(max(q, 1e-7), _MOST_FLOW)
    need = level_at(q, down, i, *laws)
    for _ in range(_MOST_HALVINGS):
        off = up - need
        if abs(off) < _LEVEL_CLOSE or high - low < 1e-12:
            break
        low, high = (q, high) if off > 0.0 else (low, q)
        step = q + off / slope
        if not low < step < high:
            step = 0.5 * (low + high) if low > 0.0 else 0.2 * high
        needed = level_at(step, down, i, *laws)
        if step != q:
            slope = max((needed - need) / (step - q), LEAST_SLOPE)
        q, need = step, needed
    # Near no flow a secant says little: no law lets its flow grow faster than in proportion to some
    # power of the level over its crest. A slope below that would let a step carry, without any
    # flow to show for it, whatever comes to a vessel just full to its outlet.
    slope = max(slope, (up - threshold) / (_STEEPEST * q))
    moves = 0.0
    if down > tail_felt:
        moves = (level_at(q, down + TAIL_STEP, i, *laws) - need) / TAIL_STEP
    return q, slope, moves


@njit_borrowing
def _factor(matrix: Floats) -> None:
    """LU in place. No pivots: each column's diagonal outweighs the rest, since what leaves one
    node enters another."""
    count = matrix.shape[0]
    for k in range(count):
        for i in range(k + 1, count):
            if matrix[i, k] != 0.0:
                matrix[i, k] /= matrix[k, k]
                for j in range(k + 1, count):
                    matrix[i, j] -= matrix[i, k] * matrix[k, j]


@njit_borrowing
def _solve(matrix: Floats, right: Floats) -> None:
    """Solve in place with a matrix from :func:`_factor`."""
    count = matrix.shape[0]
    for i in range(count):
        for j in range(i):
            right[i] -= matrix[i, j] * right[j]
    for i in range(count - 1, -1, -1):
        for j in range(i + 1, count):
            right[i] -= matrix[i, j] * right[j]
        right[i] /= matrix[i, i]


@njit_borrowing
def _weather(
    volumes: Floats, levels: Floats, area: Floats, outer: Any, rates: Floats, jacobian: Floats
) -> None:
    """Rain, evaporation, top-ups and transfers: what comes from and goes to the last sink."""
    gains, losses, sources, targets, moved, filled, set_levels, most = outer
    outside = rates.size - 1
    for n in range(gains.size):
        share = min(max(volumes[n] / _DREGS, 0.0), 1.0)
        net = gains[n] - losses[n] * share
        rates[n] += net
        rates[outside] -= net
        if 0.0 < share < 1.0:
            jacobian[n, n] -= losses[n] / _DREGS
            jacobian[outside, n] += losses[n] / _DREGS
    for k in range(sources.size):
        one, two = sources[k], targets[k]
        share = min(max(volumes[one] / _DREGS, 0.0), 1.0)
        rates[one] -= moved[k] * share
        rates[two] += moved[k] * share
        if 0.0 < share < 1.0:
            jacobian[one, one] -= moved[k] / _DREGS
            jacobian[two, one] += moved[k] / _DREGS
    for k in range(filled.size):
        n = filled[k]
        short = (set_levels[k] - levels[n]) / _FLOAT_TRAVEL
        share = min(max(short, 0.0), 1.0)
        rates[n] += most[k] * share
        rates[outside] -= most[k] * share
        if 0.0 < share < 1.0:
            slope = most[k] / _FLOAT_TRAVEL / area[n]
            jacobian[n, n] -= slope
            jacobian[outside, n] += slope


@njit(cache=True)
def _pump(
    levels: Floats, area: Floats, pumped: Any, rates: Floats, jacobian: Floats, tangents: Floats
) -> Floats:
    """What each end under pressure brings to its vessel [m³/s], taken from its table; what it
    moves by with the volumes of its source and of its vessel [1/s] goes to ``tangents``.

    A line with a single end feels only the difference of the two levels, so that its table is
    read at the source's level less what the other has risen; of several each answers by its slope.
    """
    sources, outlets, grid, tables, inlets, mouths, answers, told, shifts = pumped
    drawn = np.zeros(outlets.size)
    for k in range(outlets.size):
        node, source = outlets[k], sources[k]
        is_outside = node < 0
        risen = 0.0 if is_outside else levels[node] - told[k]
        at = levels[source] - shifts[k] * risen
        own = grid[k]
        cell = min(max(int(np.searchsorted(own, at, side="right")) - 1, 0), own.size - 2)
        slope = (tables[k, cell + 1] - tables[k, cell]) / (own[cell + 1] - own[cell])
        q = tables[k, cell] + slope * (at - own[cell])
        if at <= own[0]:
            q, slope = tables[k, 0], 0.0
        q -= (1.0 - shifts[k]) * answers[k] * risen
        answer = slope if shifts[k] > 0.0 else answers[k]
        if q > 0.0:
            over = (levels[source] - inlets[k]) / _BARE
            if over < 1.0:  # the pump begins to draw air
                share = max(over, 0.0)
                slope = slope * share + (q / _BARE if over > 0.0 else 0.0)
                q, answer = q * share, answer * share
        else:
            over = -1.0 if is_outside else (levels[node] - mouths[k]) / _BARE
            if over < 1.0:  # a mouth that siphons back is baring
                share = max(over, 0.0)
                answer = answer * share - (q / _BARE if over > 0.0 else 0.0)
                q, slope = q * share, slope * share
        drawn[k] = q
        rates[source] -= q
        rates[node] += q  # the last row, the outside, for an outfall
        jacobian[source, source] -= slope / area[source]
        jacobian[node, source] += slope / area[source]
        tangents[k, 0] = slope / area[source]
        if not is_outside:
            jacobian[source, node] += answer / area[node]
            jacobian[node, node] -= answer / area[node]
            tangents[k, 1] = -answer / area[node]
    return drawn


@njit(cache=True)
def flows_at(
    volumes: Floats,
    guess: Floats,
    slopes: Floats,
    use: Any,
    vessels: Any,
    lines: Any,
    laws: Any,
    pumped: Any,
    outer: Any,
) -> tuple[Floats, Floats, Floats, Floats, Floats, Floats]:
    """Rates of every node and sink [m³/s], their Jacobian against the nodes [1/s], the flow of
    each line and then of each end under pressure [m³/s], what the siphons' beds get [m³/s],
    the levels [m], and how each of those flows moves with the volume upstream and with the one
    downstream [1/s]. Sinks come after the nodes: what runs over each rim, and the outside.

    ``guess`` holds flows from just before, ``slopes`` the lines' slopes, which are kept up."""
    start, marks, held, areas, floors = vessels
    begins, ends, dry = lines
    modes, running, spilling, beds, taps = use
    count = floors.size
    levels, area = _levels(volumes, start, marks, held, areas, floors)
    rates, jacobian = np.zeros(volumes.size), np.zeros((volumes.size, count))
    flows = np.zeros(begins.size + pumped[1].size)
    _weather(volumes, levels, area, outer, rates, jacobian)
    tangents = np.zeros((flows.size, 2))
    flows[begins.size :] = _pump(levels, area, pumped, rates, jacobian, tangents[begins.size :])
    for i in range(begins.size):
        siphon = taps[i]
        if siphon >= 0:
            wanted = running[siphon] if modes[siphon] == RUNS else spilling[siphon]
            if modes[siphon] == HANGS or wanted != i:
                continue
        a, b = begins[i], ends[i]
        down = levels[b] if b < count else -np.inf
        q, slope, moves = _line_flow(i, levels[a], down, guess[i], slopes[i], dry[i], laws)
        flows[i], slopes[i] = q, slope
        if q <= 0.0:
            continue
        by_up, by_down = 1.0 / slope, -moves / slope
        rates[a] -= q
        rates[b] += q
        jacobian[a, a] -= by_up / area[a]
        jacobian[b, a] += by_up / area[a]
        tangents[i, 0] = by_up / area[a]
        if b < count:
            tangents[i, 1] = by_down / area[b]
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
    return rates, jacobian, flows, inflows, levels, tangents


@njit_borrowing
def _sink(reach: Floats, stage: Floats, count: int) -> None:
    """What a stage brings to the sinks, which move nothing themselves."""
    for s in range(reach.shape[0]):
        for n in range(count):
            stage[count + s] -= reach[s, n] * stage[n]


@njit_borrowing
def _add_tangents(
    stage: Floats, by: float, flows: Floats, tangents: Floats, lines: Any, pumped: Any, count: int
) -> None:
    """Add to each flow what the linear part of a stage carries through it, so that what every
    line carried adds up to what every vessel holds more."""
    begins, ends, _ = lines
    sources, outlets = pumped[0], pumped[1]
    for k in range(flows.size):
        own = k - begins.size
        up = begins[k] if own < 0 else sources[own]
        down = ends[k] if own < 0 else outlets[own]
        flows[k] += by * tangents[k, 0] * stage[up]
        if 0 <= down < count:
            flows[k] += by * tangents[k, 1] * stage[down]


@njit(cache=True)
def _step(
    volumes: Floats,
    h: float,
    guess: Floats,
    slopes: Floats,
    use: Any,
    vessels: Any,
    lines: Any,
    laws: Any,
    pumped: Any,
    outer: Any,
) -> tuple[Floats, float, Floats, Floats]:
    """One step: volumes after it, an estimate of its error [m³], the flows at its start and what
    each line carried through it [m³].

    A sink moves nothing, so only the nodes are solved for; what a sink gets follows.
    """
    rates, jacobian, flows, _, _, tangents = flows_at(
        volumes, guess, slopes, use, vessels, lines, laws, pumped, outer
    )
    count = jacobian.shape[1]
    matrix = -_GAMMA * h * jacobian
    for n in range(count):
        matrix[n, n] += 1.0
    square, reach = matrix[:count], matrix[count:]
    _factor(square)
    one = rates
    _solve(square, one[:count])
    _sink(reach, one, count)
    ahead, _, later, _, _, _ = flows_at(
        volumes + h * one, flows, slopes, use, vessels, lines, laws, pumped, outer
    )
    two = ahead - 2.0 * one
    _solve(square, two[:count])
    _sink(reach, two, count)
    after = volumes + h * (1.5 * one + 0.5 * two)
    error = 0.5 * h * np.max(np.abs(one[:count] + two[:count]))
    first = flows.copy()
    _add_tangents(one, _GAMMA * h, first, tangents, lines, pumped, count)
    second = later - 2.0 * first
    _add_tangents(two, _GAMMA * h, second, tangents, lines, pumped, count)
    return after, error, flows, h * (1.5 * first + 0.5 * second)


@njit(cache=True)
def _at_intake(
    n: int,
    volumes: Floats,
    flows: Floats,
    slopes: Floats,
    use: Any,
    vessels: Any,
    lines: Any,
    laws: Any,
    pumped: Any,
    outer: Any,
    shares: Floats,
    never: Places,
) -> int:
    """State of a siphon whose level has come down to its intake: it breaks if little enough comes,
    gurgles there if less comes than it passes when full, and else runs on."""
    modes, running = use[0], use[1]
    inflow = flows_at(volumes, flows, slopes, use, vessels, lines, laws, pumped, outer)[3][n]
    before = modes[n]
    modes[n] = RUNS
    most = flows_at(volumes, flows, slopes, use, vessels, lines, laws, pumped, outer)[2][running[n]]
    modes[n] = before
    if inflow <= shares[n] * most and never[n] == 0:
        return SPILLS
    return HANGS if inflow < most else RUNS


@njit(cache=True)
def _switch_latches(
    time: float,
    volumes: Floats,
    before: Floats,
    levels: Floats,
    flows: Floats,
    slopes: Floats,
    use: Any,
    vessels: Any,
    lines: Any,
    laws: Any,
    pumped: Any,
    outer: Any,
    latches: Any,
    log: Any,
    logged: int,
) -> int:
    """Siphons that start, break or hang on the way from one level to the next; told in the log."""
    modes, beds = use[0], use[3]
    starts, intakes, shares, never = latches
    times, kinds, which, snaps = log
    for n in range(modes.size):
        mode, bed = modes[n], beds[n]
        new = mode
        if mode == SPILLS and starts[n] <= levels[bed]:
            new = RUNS
        elif mode == HANGS or (mode == RUNS and levels[bed] <= intakes[n] < before[bed]):
            new = _at_intake(
                n, volumes, flows, slopes, use, vessels, lines, laws, pumped, outer, shares, never
            )
        if new == mode:
            continue
        modes[n] = new
        if mode == HANGS and new == RUNS:
            continue  # it only runs on
        times[logged], kinds[logged], which[logged] = time, new, n
        snaps[logged] = volumes
        logged += 1
    return logged


@njit_borrowing
def _first_hit(
    before: Floats, levels: Floats, watches: Any, modes: Places, beds: Places, latches: Any
) -> tuple[int, float]:
    """The mark that was passed first and the share of the step till then; -1 for none, -2 for a
    siphon's own."""
    nodes, marks, signs = watches
    hit, share = -1, 1.0
    for w in range(nodes.size):
        one = signs[w] * (before[nodes[w]] - marks[w])
        two = signs[w] * (levels[nodes[w]] - marks[w])
        if one < 0.0 <= two and -one / (two - one) <= share:
            hit, share = w, -one / (two - one)
    for n in range(modes.size):
        bed = beds[n]
        if modes[n] == HANGS:
            continue
        sign = 1.0 if modes[n] == SPILLS else -1.0
        mark = latches[0][n] if modes[n] == SPILLS else latches[1][n]
        one, two = sign * (before[bed] - mark), sign * (levels[bed] - mark)
        if one < 0.0 <= two and -one / (two - one) < share:
            hit, share = -2, -one / (two - one)
    return hit, share


@njit(cache=True, nogil=True)
def advance(
    volumes: Floats,
    time: float,
    until: float,
    h: float,
    tolerance: float,
    watches: Any,
    use: Any,
    vessels: Any,
    lines: Any,
    laws: Any,
    pumped: Any,
    outer: Any,
    latches: Any,
    sampling: tuple[float, float],
    samples: Floats,
    filled: int,
    carried: Floats,
    log: Any,
    most_steps: int,
) -> tuple[Floats, float, float, int, int, int, int]:
    """Go on until a time, until a watched level is passed or so many steps are taken; whichever
    comes first. Siphons are
    switched on the way and told in the log.

    Gives volumes, time, the next step, the watch that was passed (-1 for none), how many samples
    are filled, how many rows of the log, and how many steps were taken. A sample is the time and
    every level; ``carried`` grows by what every line and outlet carried [m³].
    """
    start, marks, held, areas, floors = vessels
    modes, beds = use[0], use[3]
    begun, every = sampling
    guess, slopes = np.full(carried.size, 1e-5), np.full(carried.size, 100.0)
    steps, logged = 0, 0
    before, _ = _levels(volumes, start, marks, held, areas, floors)
    while time < until - 1e-9 and logged + modes.size <= log[0].size and steps < most_steps:
        h = min(h, until - time)
        after, error, guess, passed = _step(
            volumes, h, guess, slopes, use, vessels, lines, laws, pumped, outer
        )
        steps += 1
        if error > tolerance and h > _LEAST_STEP:
            h = max(0.9 * h * math.sqrt(tolerance / error), 0.2 * h, _LEAST_STEP)
            continue
        levels, _ = _levels(after, start, marks, held, areas, floors)
        hit, share = _first_hit(before, levels, watches, modes, beds, latches)
        if hit != -1 and h > 2.0 * _EVENT_TIME and share < 0.999:
            # Also where the step before came just short of it: a whole step would be too late.
            to_it = max(h * share, _EVENT_TIME)
            if h - to_it > _EVENT_TIME:
                h = to_it  # again, to just this side or that of the event
                continue
        while filled < samples.shape[0] and begun + filled * every <= time + h:
            part = min(max((begun + filled * every - time) / h, 0.0), 1.0)
            samples[filled, 0] = begun + filled * every
            samples[filled, 1:] = before + part * (levels - before)
            filled += 1
        last = before
        volumes, time, before = after, time + h, levels
        carried += passed
        logged = _switch_latches(
            time,
            volumes,
            last,
            levels,
            guess,
            slopes,
            use,
            vessels,
            lines,
            laws,
            pumped,
            outer,
            latches,
            log,
            logged,
        )
        if hit >= 0:
            return volumes, time, max(h, _RESTART), hit, filled, logged, steps
        if hit == -2:
            h = max(h, _RESTART)
            continue
        grow = 0.9 * math.sqrt(tolerance / max(error, 1e-3 * tolerance))
        h = min(h * min(max(grow, 0.3), 4.0), 600.0)
    return volumes, time, h, -1, filled, logged, steps
