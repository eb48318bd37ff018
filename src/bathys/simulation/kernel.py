"""Compiled core of the time simulation: levels through time between two events.

Within a step levels follow its continuous extension, and an event is taken where that passes its
mark, so that no step is done again for it. A step that is too long keeps its first stage.
"""

import math
from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_inlined, record_of
from bathys.simulation.compiled import HANGS, RUNS, SPILLS, Setup
from bathys.simulation.step import (
    Step,
    derive,
    go_on,
    held_within,
    levels_within,
    passed_at,
    space_for_step,
    try_step,
)

__all__ = ["WATCH", "advance"]

Floats = NDArray[np.float64]

WATCH: Any = record_of([("node", np.int64), ("level", np.float64), ("sign", np.float64)])
"""A level to stop at when a node passes it, upwards for a positive sign."""

_LEAST_STEP, _LONGEST_STEP = 1e-3, 600.0  # [s]
_HALVINGS = 10  # of a step in which a gurgling siphon breaks
_RESTART = 0.5  # least first step after something has happened [s]


@njit_inlined
def _first_hit(
    after: Floats, watches: Any, volumes: Floats, setup: Setup, step: Step
) -> tuple[int, float]:
    """The mark that is passed first and the share of the step until then; -1 for none, -2 for a
    siphon's own."""
    plan = setup.compiled
    hit, first = -1, 1.0
    for w in range(watches.size):
        watch = watches[w]
        n = watch.node
        share = passed_at(n, watch.level, watch.sign, after[n], volumes, plan, step)
        if share <= first:
            hit, first = w, share
    for s in range(setup.modes.size):
        if setup.modes[s] == HANGS:
            continue
        siphon, spills = plan.siphons[s], setup.modes[s] == SPILLS
        n, sign = siphon.bed, 1.0 if spills else -1.0
        level = siphon.starts if spills else siphon.intake
        share = passed_at(n, level, sign, after[n], volumes, plan, step)
        if share < first:
            hit, first = -2, share
    return hit, first


@njit_inlined
def _at_intake(s: int, volumes: Floats, setup: Setup, guess: Floats, step: Step) -> int:
    """State of a siphon whose level has come down to its intake: it breaks if little enough comes,
    gurgles there if less comes than it passes when full, and else runs on."""
    siphon, before = setup.compiled.siphons[s], setup.modes[s]
    derive(volumes, setup, guess, step.later, step.unused)
    inflow = step.later.inflows[s]
    setup.modes[s] = RUNS
    derive(volumes, setup, guess, step.later, step.unused)
    most = step.later.flows[siphon.full]
    setup.modes[s] = before
    if inflow <= siphon.share * most and siphon.never_breaks == 0:
        return SPILLS
    return HANGS if inflow < most else RUNS


@njit_inlined
def _let_go(
    share: float, volumes: Floats, setup: Setup, guess: Floats, step: Step
) -> tuple[int, float]:
    """Number of the gurgling siphon that breaks or fills first within a share of a step, and the
    share until then; -1 for none."""
    first = -1
    for s in range(setup.modes.size):
        if setup.modes[s] == HANGS:
            held_within(share, volumes, step)
            if _at_intake(s, step.ahead, setup, guess, step) != HANGS:
                low = 0.0
                for _ in range(_HALVINGS):
                    middle = 0.5 * (low + share)
                    held_within(middle, volumes, step)
                    if _at_intake(s, step.ahead, setup, guess, step) == HANGS:
                        low = middle
                    else:
                        share = middle
                first = s
    return first, share


@njit_inlined
def _switch_siphons(
    time: float,
    volumes: Floats,
    levels: Floats,
    setup: Setup,
    guess: Floats,
    step: Step,
    log: Any,
    logged: int,
) -> int:
    """Siphons that start, break or hang on the way to these levels; told in the log."""
    siphons, modes = setup.compiled.siphons, setup.modes
    times, kinds, which, snaps = log
    for s in range(modes.size):
        mode, bed = modes[s], siphons[s].bed
        new = mode
        if mode == SPILLS and siphons[s].starts <= levels[bed]:
            new = RUNS
        elif mode == HANGS or (
            mode == RUNS and levels[bed] <= siphons[s].intake < step.now.levels[bed]
        ):
            new = _at_intake(s, volumes, setup, guess, step)
        if new == mode:
            continue
        modes[s] = new
        if mode == HANGS and new == RUNS:
            continue  # it only runs on
        times[logged], kinds[logged], which[logged] = time, new, s
        for n in range(volumes.size):
            snaps[logged, n] = volumes[n]
        logged += 1
    return logged


@njit(cache=True, nogil=True)
def advance(
    held: Floats,
    time: float,
    until: float,
    h: float,
    tolerance: float,
    watches: Any,
    setup: Setup,
    sampling: tuple[float, float],
    samples: Floats,
    filled: int,
    carried: Floats,
    log: Any,
    most_steps: int,
) -> tuple[Floats, float, float, int, int, int, int]:
    """Go on until a time, until a watched level is passed or so many steps are taken; whichever
    comes first. Siphons are switched on the way and told in the log.

    Gives volumes, time, the next step, the watch that was passed (-1 for none), how many samples
    are filled, how many rows of the log, and how many steps were taken. A sample is the time and
    every level; ``carried`` grows by what every line and outlet carried [m³].

    Parameters
    ----------
    held : array
        What every node and sink holds at first, shape (nodes and sinks,), [m³]
    time : float
        A time since the beginning, [s]
    until : float
        Time to end at, [s]
    h : float
        Length of the step, [s]
    tolerance : float
        Most error of a step, [m³]
    watches : object
        Levels to stop at, rows of WATCH
    setup : Setup
        How the plan stands
    sampling : (float, float)
        First sample's time and the time between two, [s]
    samples : array
        Where samples go, shape (samples, 1 + nodes), [s] and [m]
    filled : int
        How many samples are there already
    carried : array
        What each line and end carried so far, shape (flows,), [m³]
    log : object
        Where what siphons do is written: times, states, siphons, volumes
    most_steps : int
        Most steps to take

    Returns
    -------
    (array, float, float, int, int, int, int)
        Volumes, [m³], time, [s], next step, [s], the watch that was passed or -1, samples filled,
        rows of the log, steps taken
    """
    plan, (begun, every) = setup.compiled, sampling
    count, siphons = plan.nodes.size, plan.siphons.size
    step = space_for_step(count, held.size, carried.size, siphons)
    volumes, after, guess = held.copy(), np.empty(count), np.full(carried.size, 1e-4)
    steps, logged, is_fresh, hit = 0, 0, True, -1
    while time < until - 1e-9 and logged + siphons <= log[0].size and steps < most_steps:
        if is_fresh:
            derive(volumes, setup, guess, step.now, step.jacobian)
            is_fresh = False
        h = min(h, until - time)
        error = try_step(volumes, h, tolerance, setup, guess, step)
        steps += 1
        if error > tolerance and h > _LEAST_STEP:
            h = max(0.9 * h * math.sqrt(tolerance / error), 0.2 * h, _LEAST_STEP)
            continue
        levels_within(1.0, volumes, plan, step, after)
        hit, share = _first_hit(after, watches, volumes, setup, step)
        let_go, sooner = _let_go(share, volumes, setup, guess, step)
        if let_go >= 0:
            hit, share = -2, sooner
        while filled < samples.shape[0] and begun + filled * every <= time + share * h:
            at = begun + filled * every
            samples[filled, 0] = at
            part = min(max((at - time) / h, 0.0), share)
            levels_within(part, volumes, plan, step, samples[filled, 1:])
            filled += 1
        if share < 1.0:
            levels_within(share, volumes, plan, step, after)
        go_on(share, h, volumes, carried, step)
        time, is_fresh = time + share * h, True
        logged = _switch_siphons(time, volumes, after, setup, guess, step, log, logged)
        grow = min(max(0.9 * math.sqrt(tolerance / max(error, 1e-3 * tolerance)), 0.3), 4.0)
        # After an event other things move the water, so it steps no longer than before.
        h = min(h * grow, _LONGEST_STEP) if hit == -1 else max(h * min(grow, 1.0), _RESTART)
        if hit >= 0:
            break
    return volumes, time, h, hit if hit >= 0 else -1, filled, logged, steps
