"""One step of the time simulation, compiled: the stages, and where in it a level is passed.

Rosenbrock steps of second order, L-stable (ROS2, γ = 1 − 1/√2; Verwer et al. 1999, SIAM J. Sci.
Comput. 20, memory): small chambers under large flows are stiff, and an explicit step would be
bound by the smallest. Every stage sends through each line what its linear part carries, so that
what the lines carried adds up to what the vessels hold more, at any share of a step.
"""

import math
from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_inlined
from bathys.simulation.compiled import Compiled, Rates, Setup
from bathys.simulation.elimination import factor, solve
from bathys.simulation.line_tables import CELLS, make_cell
from bathys.simulation.rates import level_of, rates_at

__all__ = [
    "Step",
    "derive",
    "go_on",
    "held_within",
    "levels_within",
    "passed_at",
    "space_for_step",
    "try_step",
]

Floats = NDArray[np.float64]

_GAMMA = 1.0 - 1.0 / math.sqrt(2.0)
_BEND = 0.5 / (1.0 - 2.0 * _GAMMA)  # of the continuous extension: half the second derivative
_LEVEL_ERROR = 0.005  # most error of a level in a step; a small chamber hunts without [m]
_PAST = 1e-9  # a mark is passed by no more than this [m]
_MOST_TURNS = 60


class Step(NamedTuple):
    """Space for a step, and what it finds.

    Attributes
    ----------
    now, later : Rates
        What moves the water at its start and in its second stage
    jacobian, unused, matrix : array
        Slopes of the rates at its start, those of the second stage, and the factors, shape (nodes,
        nodes)
    ahead, one, two : array
        Where the second stage looks, [m³], and both stages, [m³/s]
    gain, bend : array
        What each node and sink gains over the whole step and how that bends, [m³]
    first, second : array
        What each line carries in both stages, [m³/s]
    nothing : array
        Zeros, one a line
    """

    now: Rates
    later: Rates
    jacobian: Floats
    unused: Floats
    matrix: Floats
    ahead: Floats
    one: Floats
    two: Floats
    gain: Floats
    bend: Floats
    first: Floats
    second: Floats
    nothing: Floats


@njit(cache=True)
def _space_for_rates(nodes: int, total: int, flows: int, siphons: int) -> Rates:
    return Rates(
        np.zeros(total),
        np.zeros(flows),
        np.zeros((flows, 2)),
        np.zeros(nodes),
        np.zeros(nodes),
        np.zeros(nodes),
        np.zeros(siphons),
    )


@njit(cache=True)
def space_for_step(nodes: int, total: int, flows: int, siphons: int) -> Step:
    """Arrays for steps of a plan of so many nodes, nodes and sinks, flows and siphons.

    Parameters
    ----------
    nodes : int
        How many nodes there are
    total : int
        How many nodes and sinks
    flows : int
        How many lines and ends under pressure
    siphons : int
        How many siphons

    Returns
    -------
    Step
        The space, all zeros
    """
    return Step(
        _space_for_rates(nodes, total, flows, siphons),
        _space_for_rates(nodes, total, flows, siphons),
        np.zeros((nodes, nodes)),
        np.zeros((nodes, nodes)),
        np.zeros((nodes, nodes)),
        np.zeros(total),
        np.zeros(total),
        np.zeros(total),
        np.zeros(total),
        np.zeros(total),
        np.zeros(flows),
        np.zeros(flows),
        np.zeros(flows),
    )


@njit_inlined
def derive(volumes: Floats, setup: Setup, guess: Floats, found: Rates, jacobian: Floats) -> None:
    """:func:`bathys.simulation.rates.rates_at`, with the cells it asks for made.

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
    """
    while True:
        missing = rates_at(volumes, setup, guess, found, jacobian)
        if missing < 0:
            return
        plan = setup.compiled
        make_cell(missing // CELLS, missing % CELLS, plan.lines, plan.laws)


@njit_inlined
def _carry(
    stage: Floats,
    by: float,
    base: Floats,
    before: Floats,
    carried: Floats,
    now: Rates,
    setup: Setup,
) -> None:
    """What a stage carries through each line and end: ``base`` less twice ``before``, and the
    linear part of the stage. What comes to the sinks by the linear part goes into the stage."""
    lines, ends, tangents = setup.compiled.lines.lines, setup.pumped.ends, now.tangents
    count, outside = now.levels.size, stage.size - 1
    if setup.has_weather:
        for n in range(count):
            stage[outside] += by * now.outside[n] * stage[n]
    for k in range(base.size):
        carried[k] = base[k] - 2.0 * before[k]
        if tangents[k, 0] == 0.0 and tangents[k, 1] == 0.0:
            continue
        if k < lines.size:
            up, down = lines[k].begin, lines[k].end
        else:
            up, down = ends[k - lines.size].source, ends[k - lines.size].node
        if down < 0:
            down = outside
        more = by * tangents[k, 0] * stage[up]
        if down < count:
            more += by * tangents[k, 1] * stage[down]
        else:
            stage[down] += more
        carried[k] += more


@njit_inlined
def try_step(
    volumes: Floats, h: float, tolerance: float, setup: Setup, guess: Floats, step: Step
) -> float:
    """Both stages of a step of ``h`` [s], from rates that ``step`` already has; gives an estimate
    of its error [m³].

    Parameters
    ----------
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    h : float
        Length of the step, [s]
    tolerance : float
        Most error of a step, [m³]
    setup : Setup
        How the plan stands
    guess : array
        Last flow of each line, kept up, shape (flows,), [m³/s]
    step : Step
        The step

    Returns
    -------
    float
        An estimate of the step's error, [m³]
    """
    plan, now, later = setup.compiled, step.now, step.later
    one, two = step.one, step.two
    order, near, counts = plan.structure
    by = _GAMMA * h
    factor(step.jacobian, by, step.matrix, order, near, counts)
    for n in range(one.size):
        one[n] = now.rates[n]
    solve(step.matrix, one, order, near, counts)
    _carry(one, by, now.flows, step.nothing, step.first, now, setup)
    for n in range(one.size):
        step.ahead[n] = volumes[n] + h * one[n]
    derive(step.ahead, setup, guess, later, step.unused)
    for n in range(one.size):
        two[n] = later.rates[n] - 2.0 * one[n]
    solve(step.matrix, two, order, near, counts)
    _carry(two, by, later.flows, step.first, step.second, now, setup)
    error: float = 0.0
    for n in range(one.size):
        step.gain[n] = h * (1.5 * one[n] + 0.5 * two[n])
        step.bend[n] = h * _BEND * (one[n] + two[n])
        if n < now.levels.size:
            off = 0.5 * h * abs(one[n] + two[n])
            error = max(error, off * max(1.0, tolerance * now.per_area[n] / _LEVEL_ERROR))
    return error


@njit_inlined
def _held(n: int, share: float, volumes: Floats, step: Step) -> float:
    """What a node holds after a share of a step, by the continuous extension [m³]."""
    bent = (share * share - share) * step.bend[n]
    held: float = volumes[n] + share * step.gain[n] + bent
    return held


@njit_inlined
def held_within(share: float, volumes: Floats, step: Step) -> None:
    """What every node holds after a share of a step [m³], into ``step.ahead``.

    Parameters
    ----------
    share : float
        Share, from 0 to 1, [-]
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    step : Step
        The step
    """
    for n in range(volumes.size):
        step.ahead[n] = _held(n, share, volumes, step)


@njit_inlined
def levels_within(
    share: float, volumes: Floats, plan: Compiled, step: Step, levels: Floats
) -> None:
    """Level of every node after a share of a step [m].

    Parameters
    ----------
    share : float
        Share, from 0 to 1, [-]
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    plan : Compiled
        The plan as compiled
    step : Step
        The step
    levels : array
        Where the levels go, shape (nodes,), [m]
    """
    for n in range(plan.nodes.size):
        levels[n] = level_of(_held(n, share, volumes, step), n, plan.nodes, plan.layers)[0]


@njit_inlined
def passed_at(
    n: int, level: float, sign: float, after: float, volumes: Floats, plan: Compiled, step: Step
) -> float:
    """Share of a step at which a node has just passed a level, upwards for a positive sign; 2 if
    it does not. ``after`` is its level at the end.

    Parameters
    ----------
    n : int
        Number of the node
    level : float
        A level over the datum, [m]
    sign : float
        Upwards for 1, downwards for -1, [-]
    after : float
        Level of the node at the end of the step, [m]
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    plan : Compiled
        The plan as compiled
    step : Step
        The step

    Returns
    -------
    float
        The share, [-]
    """
    one, two = sign * (step.now.levels[n] - level), sign * (after - level)
    if not one < 0.0 <= two:
        return 2.0
    low, high, over = 0.0, 1.0, two  # one and two are the weights of both ends (Illinois)
    for _ in range(_MOST_TURNS):
        if over <= _PAST or high - low < 1e-12:
            break
        share = low - (high - low) * one / (two - one)
        if not low < share < high:
            share = 0.5 * (low + high)
        held = _held(n, share, volumes, step)
        now = sign * (level_of(held, n, plan.nodes, plan.layers)[0] - level)
        if now < 0.0:
            low, one, two = share, now, 0.5 * two
        else:
            high, one, two, over = share, 0.5 * one, now, now
    return high


@njit_inlined
def go_on(share: float, h: float, volumes: Floats, carried: Floats, step: Step) -> None:
    """Take a share of a step of ``h`` [s]: what every node holds and every line carried [m³].

    Parameters
    ----------
    share : float
        Share, from 0 to 1, [-]
    h : float
        Length of the step, [s]
    volumes : array
        What every node and sink holds, shape (nodes and sinks,), [m³]
    carried : array
        What each line and end carried so far, shape (flows,), [m³]
    step : Step
        The step
    """
    for n in range(volumes.size):
        volumes[n] = _held(n, share, volumes, step)
    curved = (share * share - share) * _BEND
    for k in range(carried.size):
        first, second = step.first[k], step.second[k]
        carried[k] += h * (share * (1.5 * first + 0.5 * second) + curved * (first + second))
