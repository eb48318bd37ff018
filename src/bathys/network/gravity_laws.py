"""The law of one gravity line, compiled: the level upstream that a flow needs.

A law is put together from four parts that hang on the flow alone: what the inlet asks for, what
the pipe loses, its critical head, and the level of a flat pipe's surface. Each comes with its
slope, so that the balance (which works the parts out) and the simulation (which reads them off
tables) share one composition.
"""

import math

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.network.line_arrays import one_line_loss
from bathys.physics import GRAVITY
from bathys.physics.openings import (
    ORIFICE_COEFFICIENT,
    RIM_ORIFICE_COEFFICIENT,
    RIM_WEIR_COEFFICIENT,
)
from bathys.physics.part_full import critical_head, mouth_head

__all__ = [
    "BELL",
    "BRIM",
    "FULL",
    "HOLES",
    "LEAST_SLOPE",
    "LOOP",
    "MOUTH",
    "RIM",
    "TAIL_STEP",
    "flat_surface",
    "law_of_flow",
    "level_and_slopes",
    "level_at",
    "level_needed",
    "needs",
]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

MOUTH, RIM, BELL, HOLES, BRIM, FULL, LOOP = range(7)
"""How a line begins: see :class:`bathys.network.gravity.GravityLine`."""

LEAST_SLOPE = 1e-4
"""Least slope of a level against its flow [s/m²]."""
TAIL_STEP = 1e-6
"""Step of a level downstream to tell how the one upstream moves with it [m]."""

_BRIM_COEFFICIENT = 1.7  # broad rim of a vessel, Q = 1.7 L h^1.5 (published weir value, memory)
_LINEAR_HEAD = 1e-3  # below this the loss of a pipe is taken linear in its flow [m]
_RIM_ORIFICE = 1.0 / (2.0 * GRAVITY * (RIM_ORIFICE_COEFFICIENT * 0.25 * math.pi) ** 2)
_HOLE_ORIFICE = 1.0 / (2.0 * GRAVITY * ORIFICE_COEFFICIENT**2)


@njit_borrowing
def _weir(flow: float, coefficient: float) -> float:
    level: float = (flow / coefficient) ** (2.0 / 3.0)
    return level


@njit_borrowing
def _rim(flow: float, bore: float) -> float:
    """Level over a rim, by the same law as ``physics.openings.rim_head``."""
    mouth = _RIM_ORIFICE / bore**4 * flow * flow
    return max(_weir(flow, RIM_WEIR_COEFFICIENT * math.pi * bore), mouth)


@njit_borrowing
def _inlet(kind: int, flow: float, bore: float, area: float, most: float) -> float:
    if flow <= 0.0 or kind == FULL:
        return 0.0
    if kind == MOUTH:
        return mouth_head(flow, bore)[0]
    if kind == RIM:
        return _rim(flow, bore)
    if kind == BELL:
        # Under a bell the level rises until the siphon starts; then it passes what comes.
        return _rim(min(flow, most), bore)
    if kind == LOOP:
        return mouth_head(min(flow, most), bore)[0]
    if kind == HOLES:
        return _HOLE_ORIFICE / (area * area) * flow * flow
    return _weir(flow, _BRIM_COEFFICIENT * bore)


@njit_borrowing
def flat_surface(
    flow: float, share: float, table: int, flows: Floats, heads: Floats
) -> tuple[float, float, float]:
    """Level over the upper invert of a flat pipe [m] and its slopes by the flow [s/m²] and by the
    share [m], from its table: straight in the root of the flow and in the share of the way that
    its lower end is drowned."""
    last = flows.shape[1] - 2
    i = 0
    step = last // 2 + 1
    while step > 0:  # halving, since a search by numpy counts references
        while i + step <= last and flows[table, i + step] < flow:
            i += step
        step //= 2
    one, two = math.sqrt(flows[table, i]), math.sqrt(flows[table, i + 1])
    root = math.sqrt(flow)
    along = (root - one) / (two - one)
    steps = heads.shape[2] - 1
    place = min(max(share, 0.0), 1.0) * steps
    j = min(int(place), steps - 1)
    over = place - j
    low = heads[table, i, j] + over * (heads[table, i, j + 1] - heads[table, i, j])
    high = heads[table, i + 1, j] + over * (heads[table, i + 1, j + 1] - heads[table, i + 1, j])
    by_flow = (high - low) / (two - one) / (2.0 * root) if root > 0.0 else 0.0
    by_share = 0.0
    if 0.0 < share < 1.0:
        lower = heads[table, i, j + 1] - heads[table, i, j]
        upper = heads[table, i + 1, j + 1] - heads[table, i + 1, j]
        by_share = steps * (lower + along * (upper - lower))
    return low + along * (high - low), by_flow, by_share


@njit_borrowing
def law_of_flow(
    flow: float,
    i: int,
    kinds: Places,
    numbers: Floats,
    minor: Floats,
    first: Places,
    pipes: Floats,
    viscosity: float,
) -> tuple[float, float, float]:
    """What hangs on the flow alone: level over its crest that the inlet and a lift before it ask
    for, loss of the pipe, critical head of a mouth [m]."""
    kind, pipe, lift = kinds[i, 0], kinds[i, 1], kinds[i, 2]
    bore, area, most = numbers[i, 1], numbers[i, 2], numbers[i, 3]
    lost, critical = 0.0, 0.0
    if pipe >= 0:
        lost = one_line_loss(flow, pipe, minor, first, pipes, viscosity)
        if lost < _LINEAR_HEAD:
            # Straight between nothing and a millimetre: a square root is stiff there.
            lost = math.sqrt(lost * _LINEAR_HEAD)
        if kind == MOUTH:
            critical = critical_head(flow, bore)
    inlet = _inlet(kind, flow, bore, area, most)
    if lift >= 0:
        inlet += one_line_loss(flow, lift, minor, first, pipes, viscosity)
    return inlet, lost, critical


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
) -> tuple[float, float, float]:
    """Level upstream that a flow needs [m], its slope by the flow [s/m²] and how it moves with
    the level downstream [-]. Each part comes with its slopes: by the flow, of ``flat`` also by the
    level downstream."""
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
    [m]. The bank's arrays follow, as :attr:`GravityLineArrays.laws`."""
    kind, pipe, table = kinds[i, 0], kinds[i, 1], kinds[i, 3]
    crest, bore, outlet = numbers[i, 0], numbers[i, 1], numbers[i, 4]
    inlet, lost, critical = law_of_flow(flow, i, kinds, numbers, minor, first, pipes, viscosity)
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
    moves with the level downstream [-]."""
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
    """What each line of a bank needs, as :func:`level_needed` tells for one."""
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
