"""The law of one gravity line, compiled: the level upstream that a flow needs.

A law is put together from parts that hang on the flow alone: what the inlet asks for, what the pipe
loses, its critical head, the level of a flat pipe's surface, and what a lift or a filter before the
crest loses, which is added whatever the rest comes to. Each comes with its slope, so that the
balance (which works the parts out) and the simulation (which reads them off tables) share one
composition.
"""

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.network.flow_laws import MOUTH, flat_surface, law_of_flow

__all__ = ["LEAST_SLOPE", "TAIL_STEP", "level_and_slopes", "level_at", "level_needed", "needs"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

LEAST_SLOPE = 1e-4
"""Least slope of a level against its flow [s/m²]."""
TAIL_STEP = 1e-6
"""Step of a level downstream to tell how the one upstream moves with it [m]."""


@njit_borrowing
def _mouth(
    tail: float,
    crest: float,
    bore: float,
    outlet: float,
    is_flat: bool,
    inlet: tuple[float, float],
    lost: tuple[float, float],
    critical: tuple[float, float],
    flat: tuple[float, float, float],
) -> tuple[float, float, float]:
    """Level, and its slopes, at the mouth of a pipe."""
    level, slope, moves = crest + inlet[0], inlet[1], 0.0
    if is_flat:
        if crest + flat[0] > level:
            level, slope, moves = crest + flat[0], flat[1], flat[2]
        jet, jet_slope = level, slope
    else:
        # A steep pipe that ends in the air holds its inlet up only once it runs nearly full; its
        # jet then stands half way between its critical depth and its crown (HDS-5).
        full = 4.0 * critical[0] / bore - 2.0
        by_full = 4.0 * critical[1] / bore if 0.0 < full < 1.0 else 0.0
        full = min(max(full, 0.0), 1.0)
        over = outlet + 0.5 * critical[0] + lost[0] - level
        jet = level + full * over
        jet_slope = slope + by_full * over + full * (0.5 * critical[1] + lost[1] - slope)
    # A valve in it, or an end that lies high, fills the pipe behind it whatever the flow, as soon
    # as what it asks for reaches the mouth's crown; its end then runs at critical depth.
    backed, by_backed = outlet - 0.5 * bore + critical[0] + lost[0], critical[1] + lost[1]
    pressed = 2.0 * ((backed - crest) / bore - 1.0)
    by_pressed = 2.0 * by_backed / bore if 0.0 < pressed < 1.0 else 0.0
    pressed = min(max(pressed, 0.0), 1.0)
    full_level = level + pressed * (backed - level)
    if full_level > max(level, jet):
        slope += by_pressed * (backed - level) + pressed * (by_backed - slope)
        level, moves = full_level, moves * (1.0 - pressed)
    elif jet > level:
        level, slope = jet, jet_slope
    if tail - outlet + 0.5 * bore > critical[0] and tail + lost[0] > level:
        return tail + lost[0], lost[1], 1.0
    return level, slope, moves


@njit_borrowing
def level_and_slopes(
    tail: float,
    kind: int,
    has_pipe: bool,
    crest: float,
    bore: float,
    outlet: float,
    is_flat: bool,
    inlet: tuple[float, float],
    lost: tuple[float, float],
    critical: tuple[float, float],
    flat: tuple[float, float, float],
    before: tuple[float, float],
) -> tuple[float, float, float]:
    """Level upstream that a flow needs [m], its slope by the flow [s/m²] and how it moves with
    the level downstream [-]. Each part comes with its slopes: by the flow, of ``flat`` also by the
    level downstream.

    Parameters
    ----------
    tail : float
        Level downstream, -inf for open air, [m]
    kind : int
        How the line begins
    has_pipe : bool
        Whether a pipe is part of it
    crest : float
        Its crest, over the datum, [m]
    bore : float
        Inside diameter, [m]
    outlet : float
        Centre of its lower end, over the datum, [m]
    is_flat : bool
        Whether the pipe is flatter than critical
    inlet : (float, float)
        What its inlet asks for, [m], and the slope of that, [s/m²]
    lost : (float, float)
        Loss of the pipe, [m], and its slope, [s/m²]
    critical : (float, float)
        Critical head, [m], and its slope, [s/m²]
    flat : (float, float, float)
        Level of a flat pipe's surface over its crest, [m], its slope, [s/m²], and how it moves with
        the level downstream, [-]
    before : (float, float)
        Loss before the crest, [m], and its slope, [s/m²]

    Returns
    -------
    (float, float, float)
        Level, [m], its slope, [s/m²], and how it moves with the level downstream, [-]
    """
    level, slope, moves = _behind(
        tail, kind, has_pipe, crest, bore, outlet, is_flat, inlet, lost, critical, flat
    )
    return level + before[0], slope + before[1], moves


@njit_borrowing
def _behind(
    tail: float,
    kind: int,
    has_pipe: bool,
    crest: float,
    bore: float,
    outlet: float,
    is_flat: bool,
    inlet: tuple[float, float],
    lost: tuple[float, float],
    critical: tuple[float, float],
    flat: tuple[float, float, float],
) -> tuple[float, float, float]:
    """As :func:`level_and_slopes`, behind a lift or a filter."""
    if has_pipe and kind == MOUTH:
        return _mouth(tail, crest, bore, outlet, is_flat, inlet, lost, critical, flat)
    level, slope = crest + inlet[0], inlet[1]
    if not has_pipe:
        # Holes and a rim under water on both sides pass by the difference of the two.
        return level + max(tail - crest, 0.0), slope, 1.0 if tail > crest else 0.0
    if outlet + lost[0] > level:
        level, slope = outlet + lost[0], lost[1]
    if tail > outlet and tail + lost[0] > level:
        return tail + lost[0], lost[1], 1.0
    return level, slope, 0.0


@njit_borrowing
def level_at(
    flow: float,
    tail: float,
    i: int,
    kinds: Places,
    numbers: Floats,
    flat_flows: Floats,
    flat_energies: Floats,
    minor: Floats,
    first: Places,
    pipes: Floats,
    viscosity: float,
) -> float:
    """Level upstream [m] that one line of a bank needs for a flow [m³/s] over a level downstream
    [m]. The bank's arrays follow, as :attr:`GravityLineArrays.laws`.

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    tail : float
        Level downstream, -inf for open air, [m]
    i : int
        Number of the line
    kinds : array of int
        Kind, pipe, lift and table of each line, shape (lines, 4)
    numbers : array
        Crest, bore, open area, most spill and outlet of each line, shape (lines, 5), [SI]
    flat_flows : array
        Flows of flat pipes' tables, shape (tables, flows), [m³/s]
    flat_energies : array
        Levels of flat pipes' tables, shape (tables, flows, shares), [m]
    minor : array
        Head per squared flow lost in the fittings of each line, shape (lines,), [s²/m⁵]
    first : array of int
        Where the pipes of each line begin, shape (lines + 1,)
    pipes : array
        Figures of each pipe and filter, shape (pipes, PIECE_FIGURES), [SI]
    viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    float
        The level upstream, [m]
    """
    kind, pipe, table = kinds[i, 0], kinds[i, 1], kinds[i, 3]
    crest, bore, outlet = numbers[i, 0], numbers[i, 1], numbers[i, 4]
    inlet, lost, critical, before = law_of_flow(
        flow, i, kinds, numbers, minor, first, pipes, viscosity
    )
    flat = 0.0
    if table >= 0:
        # From its own critical depth to a drowned crown the tail lifts the whole surface with it.
        share = (tail - outlet + 0.5 * bore - critical) / max(bore - critical, 1e-6)
        flat = flat_surface(flow, share, table, flat_flows, flat_energies)[0]
    return level_and_slopes(
        tail,
        kind,
        pipe >= 0,
        crest,
        bore,
        outlet,
        table >= 0,
        (inlet, 0.0),
        (lost, 0.0),
        (critical, 0.0),
        (flat, 0.0, 0.0),
        (before, 0.0),
    )[0]


@njit_borrowing
def level_needed(
    flow: float,
    tail: float,
    i: int,
    kinds: Places,
    numbers: Floats,
    flat_flows: Floats,
    flat_energies: Floats,
    minor: Floats,
    first: Places,
    pipes: Floats,
    viscosity: float,
) -> tuple[float, float, float]:
    """What one line of a bank needs: the level upstream [m], its slope [s/m²], and how far it
    moves with the level downstream [-].

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    tail : float
        Level downstream, -inf for open air, [m]
    i : int
        Number of the line
    kinds : array of int
        Kind, pipe, lift and table of each line, shape (lines, 4)
    numbers : array
        Crest, bore, open area, most spill and outlet of each line, shape (lines, 5), [SI]
    flat_flows : array
        Flows of flat pipes' tables, shape (tables, flows), [m³/s]
    flat_energies : array
        Levels of flat pipes' tables, shape (tables, flows, shares), [m]
    minor : array
        Head per squared flow lost in the fittings of each line, shape (lines,), [s²/m⁵]
    first : array of int
        Where the pipes of each line begin, shape (lines + 1,)
    pipes : array
        Figures of each pipe and filter, shape (pipes, PIECE_FIGURES), [SI]
    viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    (float, float, float)
        The level upstream, [m], its slope, [s/m²], and how it moves with the level downstream, [-]
    """
    laws = (kinds, numbers, flat_flows, flat_energies, minor, first, pipes, viscosity)
    step = 5e-4 * flow + 1e-9
    here = level_at(flow, tail, i, *laws)
    ahead = level_at(flow + step, tail, i, *laws)
    moved = here
    if np.isfinite(tail):
        moved = level_at(flow, tail + TAIL_STEP, i, *laws)
    return here, max((ahead - here) / step, LEAST_SLOPE), (moved - here) / TAIL_STEP


@njit(cache=True)
def needs(
    flow: Floats,
    tail: Floats,
    kinds: Places,
    numbers: Floats,
    flat_flows: Floats,
    flat_energies: Floats,
    minor: Floats,
    first: Places,
    pipes: Floats,
    viscosity: float,
) -> tuple[Floats, Floats, Floats]:
    """What each line of a bank needs, as :func:`level_needed` tells for one.

    Parameters
    ----------
    flow : array
        Flow of each line, shape (lines,), [m³/s]
    tail : array
        Level downstream of each line, -inf for open air, shape (lines,), [m]
    kinds : array of int
        Kind, pipe, lift and table of each line, shape (lines, 4)
    numbers : array
        Crest, bore, open area, most spill and outlet of each line, shape (lines, 5), [SI]
    flat_flows : array
        Flows of flat pipes' tables, shape (tables, flows), [m³/s]
    flat_energies : array
        Levels of flat pipes' tables, shape (tables, flows, shares), [m]
    minor : array
        Head per squared flow lost in the fittings of each line, shape (lines,), [s²/m⁵]
    first : array of int
        Where the pipes of each line begin, shape (lines + 1,)
    pipes : array
        Figures of each pipe and filter, shape (pipes, PIECE_FIGURES), [SI]
    viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    (array, array, array)
        Levels upstream, [m], slopes, [s/m²], moves with the level downstream, [-], each of shape
    (lines,)
    """
    level, slope, moves = np.empty_like(flow), np.empty_like(flow), np.empty_like(flow)
    for i in range(flow.size):
        level[i], slope[i], moves[i] = level_needed(
            flow[i],
            tail[i],
            i,
            kinds,
            numbers,
            flat_flows,
            flat_energies,
            minor,
            first,
            pipes,
            viscosity,
        )
    return level, slope, moves
