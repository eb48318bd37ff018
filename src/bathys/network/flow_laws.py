"""What hangs on the flow through a gravity line alone: its inlet, its loss, a flat surface."""

import math

import numpy as np
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.network.line_arrays import one_line_loss
from bathys.physics import GRAVITY
from bathys.physics.openings import (
    ORIFICE_COEFFICIENT,
    RIM_ORIFICE_COEFFICIENT,
    RIM_WEIR_COEFFICIENT,
)
from bathys.physics.part_full import critical_head
from bathys.physics.pipe_mouth import mouth_head

__all__ = [
    "BELL",
    "BRIM",
    "FULL",
    "HOLES",
    "LOOP",
    "MOUTH",
    "NOTCH",
    "RIM",
    "WEIR",
    "flat_surface",
    "law_of_flow",
]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

MOUTH, RIM, BELL, HOLES, BRIM, FULL, LOOP, WEIR, NOTCH = range(9)
"""How a line begins: see :class:`bathys.network.gravity.GravityLine`."""

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
        return _rim(flow / area, bore)
    if kind == BELL:
        # Under a bell the level rises until the siphon starts; then it passes all inflow.
        return _rim(min(flow, most), bore)
    if kind == LOOP:
        return mouth_head(min(flow, most), bore)[0]
    if kind == HOLES:
        return _HOLE_ORIFICE / (area * area) * flow * flow
    if kind == WEIR:
        return _weir(flow, area)
    if kind == NOTCH:
        level: float = (flow / area) ** 0.4  # Q = c h^2.5
        return level
    return _weir(flow, _BRIM_COEFFICIENT * bore)


@njit_borrowing
def flat_surface(
    flow: float, share: float, table: int, flows: Floats, heads: Floats
) -> tuple[float, float, float]:
    """Level over the upper invert of a flat pipe [m] and its slopes by the flow [s/m²] and by the
    share [m], from its table: straight in the root of the flow and in the share of the way that
    its lower end is drowned.

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    share : float
        Share, from 0 to 1, [-]
    table : int
        Row of the tables
    flows : array
        Flows of the tables, shape (tables, flows), [m³/s]
    heads : array
        Levels over the upper invert, shape (tables, flows, shares), [m]

    Returns
    -------
    (float, float, float)
        Level, its slope by the flow, its slope by the share: [m], [s/m²], [m]
    """
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
) -> tuple[float, float, float, float]:
    """What hangs on the flow alone: level over its crest that the inlet asks for, loss of the pipe,
    critical head of a mouth, and what a lift or a filter before the crest loses [m].

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    i : int
        Number of the line
    kinds : array of int
        Kind, pipe, lift and table of each line, shape (lines, 4)
    numbers : array
        Crest, bore, open area (of a rim its open share), most spill and outlet of each line, shape
        (lines, 5), [SI]
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
    (float, float, float, float)
        Inlet, loss, critical head, loss before the crest, [m]
    """
    kind, pipe, lift = kinds[i, 0], kinds[i, 1], kinds[i, 2]
    bore, area, most = numbers[i, 1], numbers[i, 2], numbers[i, 3]
    lost, critical, before = 0.0, 0.0, 0.0
    if pipe >= 0:
        lost = one_line_loss(flow, pipe, minor, first, pipes, viscosity)
        if lost < _LINEAR_HEAD:
            # Straight between nothing and a millimetre: a square root is stiff there.
            lost = math.sqrt(lost * _LINEAR_HEAD)
        if kind == MOUTH:
            critical = critical_head(flow, bore)
    inlet = _inlet(kind, flow, bore, area, most)
    if lift >= 0:
        before = one_line_loss(flow, lift, minor, first, pipes, viscosity)
    return inlet, lost, critical, before
