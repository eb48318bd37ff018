"""Newton's steps for the levels of gravity lines, compiled."""

from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.network.gravity_laws import level_at, needs

__all__ = ["driven", "newton_run"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]
Pairs = tuple[Places, Places, Floats]
Net = tuple[Places, Places, Floats, Floats]

_SWAY_FROM = 12  # steps; most networks settle in fewer
_STILL = 1e-12  # [m²/s]; a node that nothing drains still has an answer to its equation

_NO_FLOW = 1e-8  # [m³/s]; a line that carries less may hang a hair over its crest

_MOUTH = 0.02  # over so much a mouth goes from covered to bare [m]

_MOST_STIFF = 64.0
_MOST_GROWTH, _FIRST_GROWTH = 0.5, 1e-6  # of a flow in one late step: share of it, and [m³/s]
_MOST_RISE = 0.3  # greatest change of a level in one step [m]

_MOST_FLOW = 0.1  # [m³/s]

_LEVEL_TOLERANCE = 1e-7  # [m]

_JUST_OPEN = 1e-3  # so far over its crest a line that carried nothing begins to [m]

_HALVINGS = 24
_FLOW_TOLERANCE = 5e-10  # [m³/s]


@njit(cache=True)
def _what_comes(
    inflow: Floats, rate: Floats, level: Floats, least: Floats, felt: Pairs, levels: Floats
) -> tuple[Floats, Floats, Floats]:
    """What comes to each node at the levels [m³/s], how much less for each metre more of its own
    level [m²/s], and for each metre more of the other level of each pair that feel each other; as
    the level bares the mouth that takes it, ever less is taken."""
    ones, twos, rates = felt
    comes, less, pairs = np.empty_like(inflow), np.empty_like(inflow), rates.copy()
    for n in range(inflow.size):
        comes[n], less[n] = inflow[n] - rate[n] * (levels[n] - level[n]), rate[n]
    for k in range(rates.size):
        comes[ones[k]] -= rates[k] * (levels[twos[k]] - level[twos[k]])
    for n in range(inflow.size):
        if comes[n] < 0.0:
            depth = (levels[n] - least[n]) / _MOUTH
            share = min(max(depth, 0.0), 1.0)
            bend = 1.0 / _MOUTH if 0.0 < depth < 1.0 else 0.0
            less[n] = share * rate[n] - bend * comes[n]
            comes[n] *= share
            for k in range(rates.size):
                if ones[k] == n:
                    pairs[k] *= share
    return comes, less, pairs


@njit(cache=True)
def _gain(starts: Places, ends: Places, flows: Floats, comes: Floats) -> Floats:
    """What each node gets more than it gives [m³/s]."""
    gain = np.append(comes, 0.0)
    for k in range(starts.size):
        gain[starts[k]] -= flows[k]
        gain[ends[k]] += flows[k]
    return gain[:-1].copy()


@njit(cache=True)
def _newton(
    starts: Places,
    ends: Places,
    weight: Floats,
    moves: Floats,
    off: Floats,
    gain: Floats,
    held: Floats,
    felt: Pairs,
) -> tuple[Floats, Floats]:
    """Rise of each node's level [m] and change of each line's flow [m³/s] of one step."""
    count = gain.size
    drive = np.append(-gain, 0.0)
    full = np.zeros((count + 1, count + 1))
    for k in range(starts.size):
        one, two, w = starts[k], ends[k], weight[k]
        tail = w * moves[k]
        drive[one] += w * off[k]
        drive[two] -= w * off[k]
        full[one, one] -= w
        full[two, one] += w
        full[one, two] += tail
        full[two, two] -= tail
    for n in range(count):
        full[n, n] -= held[n]
    ones, twos, rates = felt
    for k in range(rates.size):
        full[ones[k], twos[k]] -= rates[k]
    rise = np.zeros(count + 1)
    if count:
        solved = np.linalg.solve(full[:-1, :-1].copy(), drive[:-1])
        rise[:-1] = np.minimum(np.maximum(solved, -_MOST_RISE), _MOST_RISE)
    change = weight * (off + rise[starts] - moves * rise[ends])
    return rise[:-1].copy(), change


@njit(cache=True)
def driven(up: Floats, down: Floats, threshold: Floats, *laws: Any) -> Floats:
    """Flow that a level upstream drives through each line, to within a percent or so.

    Parameters
    ----------
    up, down, threshold : array
        Levels at both ends, and that from which on a line carries, shape (lines,), [m]
    *laws : object
        Their laws, as :attr:`bathys.network.gravity.GravityLineArrays.laws`

    Returns
    -------
    array
        Flows, shape (lines,), [m³/s]
    """
    flows = np.zeros_like(up)
    for i in range(up.size):
        if up[i] <= threshold[i]:
            continue
        low, high = 1e-9, _MOST_FLOW
        for _ in range(_HALVINGS):
            middle = np.sqrt(low * high)
            if level_at(middle, down[i], i, *laws) < up[i]:
                low = middle
            else:
                high = middle
        flows[i] = low
    return flows


@njit(cache=True)
def _level_of(places: Places, levels: Floats, given: Floats) -> Floats:
    """Level at one end of each line: its node's, or the one that is given."""
    found = given.copy()
    for k in range(places.size):
        if places[k] < levels.size:
            found[k] = levels[places[k]]
    return found


@njit(cache=True)
def _is_settled(off: Floats, gain: Floats, flows: Floats) -> bool:
    most = 0.0
    for k in range(flows.size):
        most = max(most, flows[k])
        # A line at no flow may hang a hair over its crest; what it would carry is nothing.
        share = 0.1 if flows[k] < _NO_FLOW else 1.0
        if share * abs(off[k]) >= 10.0 * _LEVEL_TOLERANCE:
            return False
    return bool(np.all(np.abs(gain) < _FLOW_TOLERANCE + 1e-9 * most))


@njit(cache=True)
def newton_run(
    net: Net,
    inflows: tuple[Floats, Floats, Floats, Floats, Pairs],
    lowest: Floats,
    pace: tuple[int, float, float, int],
    begins: Floats,
    flows: Floats,
    levels: Floats,
    laws: Any,
) -> tuple[int, Floats, Floats, Floats]:
    """Newton's steps until every line and node agree.

    Parameters
    ----------
    net : tuple of array
        Numbers of the nodes that each line joins, and the levels given where it joins none, [m]
    inflows : tuple
        What comes to each node, [m³/s], how that answers to levels, [m²/s], and pairs that feel
        each other
    lowest : array
        No node falls under it, shape (nodes,), [m]
    pace : tuple
        Patience, first step, its least share and how many steps at most, [-]
    begins : array
        Level from which on each line carries, shape (lines,), [m]
    flows, levels : array
        First guesses, [m³/s] and [m]
    laws : object
        Laws of the lines, as :attr:`bathys.network.gravity.GravityLineArrays.laws`

    Returns
    -------
    (int, array, array, array)
        Steps taken, one too many if they did not do; flows, [m³/s], levels, [m], and what each
        line is off, [m]
    """
    starts, ends, start_level, end_level = net
    patience, first, less, steps = pace
    off = np.zeros_like(flows)
    stiff = np.ones_like(flows)
    for step in range(1, steps + 1):
        up = _level_of(starts, levels, start_level)
        down = _level_of(ends, levels, end_level)
        threshold = np.maximum(begins, down)
        if step > 1 and np.any((flows <= 0.0) & (up > threshold + _JUST_OPEN)):
            fresh = (flows <= 0.0) & (up > threshold + _JUST_OPEN)
            flows = np.where(fresh, driven(up, down, threshold, *laws), flows)
        need, slope, moves = needs(flows, down, *laws)
        is_open = (flows > 0.0) | (up > threshold + _LEVEL_TOLERANCE)
        flows = np.where(is_open, flows, 0.0)
        last, off = off, np.where(is_open, up - need, 0.0)
        comes, rate, pairs = _what_comes(*inflows, levels)
        gain = _gain(starts, ends, flows, comes)
        if step > 1 and _is_settled(off, gain, flows):
            return step, flows, levels, off
        hold = _STILL if step < patience else max(_STILL, first * less ** (step - patience))
        if step > _SWAY_FROM:
            # A line that goes too far to and fro lies across a bend in its law, steeper than seen.
            stiff = np.where(
                off * last < 0.0, np.minimum(2.0 * stiff, _MOST_STIFF), np.maximum(0.5 * stiff, 1.0)
            )
        weight = np.where(is_open, 1.0 / (slope * stiff), 0.0)
        felt = (inflows[4][0], inflows[4][1], pairs)
        rise, change = _newton(starts, ends, weight, moves, off, gain, hold + rate, felt)
        if step > _SWAY_FROM:
            # Else the way back from far beyond a bend is so long that it is forgotten meanwhile.
            change = np.minimum(change, _MOST_GROWTH * flows + _FIRST_GROWTH)
        damp = 0.5 if step % 12 == 0 else 1.0
        levels = np.maximum(levels + damp * rise, lowest)
        flows = np.maximum(flows + damp * change, 0.0)
    return steps + 1, flows, levels, off
