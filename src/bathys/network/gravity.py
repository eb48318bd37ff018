"""Gravity lines: the level upstream that a flow needs, for many lines at once.

A line carries the smaller of what its inlet lets in and what its bore lets through; told the other
way round, the level it needs is the greatest of three: what its mouth, rim or holes need; what a
part-full or full pipe needs that ends in the air; what a full pipe needs that ends under water.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.network.bank import LineBank
from bathys.network.lines import Line
from bathys.physics import GRAVITY
from bathys.physics.openings import (
    ORIFICE_COEFFICIENT,
    RIM_ORIFICE_COEFFICIENT,
    RIM_WEIR_COEFFICIENT,
)
from bathys.physics.part_full import critical_head, mouth_head, surface_profile
from bathys.physics.siphon import start_flow

__all__ = ["FLAT_SLOPE", "GravityBank", "GravityLine", "InletKind"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]
InletKind = Literal["mouth", "rim", "bell", "holes", "brim"]

FLAT_SLOPE = 0.012
"""Fall over length below which a drain may run flatter than critical (FHWA HDS-5: 0.4–1.1 % for
these bores, memory), so that its lower end can hold its upper end up."""

_TABLE_FLOWS = np.concatenate([[0.0], np.geomspace(0.004, 1.2, 22)])  # Q/√(g D⁵)
_BRIM_COEFFICIENT = 1.7  # broad rim of a vessel, Q = 1.7 L h^1.5 (published weir value, memory)
_LEAST_SLOPE = 1e-4  # [m per m³/s]
_LINEAR_HEAD = 1e-3  # below this the loss between drowned ends is taken linear [m]


@dataclass(frozen=True)
class GravityLine:
    """One gravity line between two nodes.

    Attributes
    ----------
    id : str
        Its name
    start, end : str or None
        Nodes it joins; none where what it carries is lost
    inlet : str
        ``mouth`` of a pipe, ``rim`` of a standpipe, the rim under a ``bell``, ``holes`` or the
        ``brim`` of a vessel
    crest : float
        Level at which it begins to carry: an invert, a rim or the holes' centre, [m]
    bore : float
        Of the mouth or rim; the length of a brim, [m]
    area : float
        Open area of holes, [m²]
    outlet : float
        Centre of its lower end, [m]
    line : Line or None
        What it loses when full; none for a brim or for holes in a plate
    lift : Line or None
        What it loses before its crest
    level_length, fall : float
        Length of its level part and the fall over that, [m]
    """

    id: str
    start: str
    end: str | None
    inlet: InletKind
    crest: float
    bore: float = 0.0
    area: float = 0.0
    outlet: float = -np.inf
    line: Line | None = None
    lift: Line | None = None
    level_length: float = 0.0
    fall: float = 0.0

    backwards: bool = False
    """Whether it is the other way through a run that may carry water both ways."""

    @property
    def is_usual(self) -> bool:
        """Whether water is meant to go this way."""
        return self.inlet != "brim" and not self.backwards

    @property
    def is_flat(self) -> bool:
        """Whether its lower end can hold its upper end up."""
        return (
            self.inlet == "mouth" and self.level_length > 0.0
            and self.fall < FLAT_SLOPE * self.level_length
        )  # fmt: skip


_MOUTH, _RIM, _BELL, _HOLES, _BRIM = range(5)
_KINDS: dict[InletKind, int] = {
    "mouth": _MOUTH, "rim": _RIM, "bell": _BELL, "holes": _HOLES, "brim": _BRIM,
}  # fmt: skip
_RIM_ORIFICE = 1.0 / (2.0 * GRAVITY * (RIM_ORIFICE_COEFFICIENT * 0.25 * math.pi) ** 2)
_HOLE_ORIFICE = 1.0 / (2.0 * GRAVITY * ORIFICE_COEFFICIENT**2)


@njit(cache=True)
def _weir(flow: float, coefficient: float) -> tuple[float, float]:
    size = max(flow, 1e-12)
    head = (size / coefficient) ** (2.0 / 3.0)
    return (head if flow > 0.0 else 0.0), 2.0 / 3.0 * head / size


@njit(cache=True)
def _rim(flow: float, bore: float) -> tuple[float, float]:
    """Level over a rim and its slope, by the same law as ``physics.openings.rim_head``."""
    head, slope = _weir(flow, RIM_WEIR_COEFFICIENT * math.pi * bore)
    scale = _RIM_ORIFICE / bore**4
    if scale * flow * flow > head:
        return scale * flow * flow, 2.0 * scale * flow
    return head, slope


@njit(cache=True)
def _inlet(kind: int, flow: float, bore: float, area: float, most: float) -> tuple[float, float]:
    if kind == _MOUTH:
        return mouth_head(flow, bore)
    if kind == _RIM:
        return _rim(flow, bore)
    if kind == _BELL:
        # Under a bell the level rises until the siphon starts; then it passes what comes.
        head, slope = _rim(min(flow, most), bore)
        return head, (slope if flow < most else 0.0)
    if kind == _HOLES:
        scale = _HOLE_ORIFICE / (area * area)
        return scale * flow * flow, 2.0 * scale * flow
    return _weir(flow, _BRIM_COEFFICIENT * bore)


@njit(cache=True)
def _drowned(
    flow: float, lost: float, rate: float, bore: float, outlet: float, below: float,
    critical: float, is_mouth: bool,
) -> tuple[float, float]:  # fmt: skip
    """Level that a line needs which ends in deeper water than its own, and its slope; else -inf."""
    depth = below - outlet + 0.5 * bore
    if (is_mouth and depth <= critical) or (not is_mouth and below <= outlet):
        return -np.inf, rate
    wider = 1.0
    if is_mouth and depth < bore:
        theta = 2.0 * math.acos(1.0 - 2.0 * max(depth / bore, 0.3))
        wider = (2.0 * math.pi / (theta - math.sin(theta))) ** 2
    if lost < _LINEAR_HEAD:
        # Straight through no flow and the flow of a millimetre: a square root is stiff there.
        size = max(flow, 1e-9)
        at_linear = size * math.sqrt(_LINEAR_HEAD / max(lost, 1e-15))
        rate = max(rate, _LINEAR_HEAD / at_linear)
    return below + lost * wider, rate * wider


@njit(cache=True)
def _needs(
    flow: Floats, tail: Floats, kinds: Places, crest: Floats, bore: Floats, area: Floats,
    most: Floats, outlet: Floats, is_flat: NDArray[np.bool_], has_line: NDArray[np.bool_],
    lost: Floats, rate: Floats, lift_lost: Floats, lift_rate: Floats, flat_level: Floats,
    flat_slope: Floats,
) -> tuple[Floats, Floats, Floats]:  # fmt: skip
    level, slope, moves = np.empty_like(flow), np.empty_like(flow), np.zeros_like(flow)
    for i in range(flow.size):
        head, head_slope = _inlet(kinds[i], flow[i], bore[i], area[i], most[i])
        here, bend = crest[i] + head + lift_lost[i], head_slope + lift_rate[i]
        if is_flat[i] and flat_level[i] > here:
            here, bend = flat_level[i], flat_slope[i]
        if has_line[i]:
            is_mouth = kinds[i] == _MOUTH
            critical = critical_head(flow[i], bore[i]) if is_mouth else 0.0
            # A pipe that ends in the air and runs full: its jet's level at its end (HDS-5).
            free = outlet[i] + 0.5 * critical + lost[i]
            if not is_flat[i] and free > here:
                here, bend = free, rate[i]
            deep, deep_rate = _drowned(
                flow[i], lost[i], rate[i], bore[i], outlet[i], tail[i], critical, is_mouth
            )
            if deep > here:
                here, bend, moves[i] = deep, deep_rate, 1.0
        level[i], slope[i] = here, max(bend, _LEAST_SLOPE)
    return level, slope, moves


class GravityBank:
    """The laws of several gravity lines in flat arrays.

    Parameters
    ----------
    lines : sequence of GravityLine
        The lines
    """

    def __init__(self, lines: Sequence[GravityLine]) -> None:
        self.lines = lines
        self._kinds = np.array([_KINDS[r.inlet] for r in lines], dtype=np.int64)
        self.crest = np.array([r.crest for r in lines])
        self._bore = np.array([r.bore for r in lines])
        self._area = np.array([r.area for r in lines])
        self._most = np.array([start_flow(r.bore) if r.inlet == "bell" else 0.0 for r in lines])
        self._outlet = np.array([r.outlet for r in lines])
        self._full = np.flatnonzero([r.line is not None for r in lines])
        self._lifts = np.flatnonzero([r.lift is not None for r in lines])
        self._has_line = np.array([r.line is not None for r in lines], dtype=bool)
        self._bank = LineBank([r.line for r in lines if r.line is not None])
        self._lift_bank = LineBank([r.lift for r in lines if r.lift is not None])
        is_mouth = self._kinds == _MOUTH
        self._uphill = self._outlet - np.where(is_mouth, 0.5 * self._bore, 0.0)
        self._is_flat = np.array([r.is_flat for r in lines], dtype=bool)
        flat = [int(i) for i in np.flatnonzero(self._is_flat)]
        self._tables: dict[int, tuple[Floats, Floats]] = {}
        if flat:
            rows = [lines[i] for i in flat]
            flow, energy = _flat_tables(tuple(
                (r.bore, r.level_length, r.fall, r.line.fitting_loss if r.line else 0.0)
                for r in rows
            ))  # fmt: skip
            self._tables = {i: (flow[k], energy[k]) for k, i in enumerate(flat)}

    def threshold(self, tail: Floats) -> Floats:
        """Level upstream [m] at which each line begins to carry, given the level downstream."""
        return np.asarray(np.maximum(np.maximum(self.crest, self._uphill), tail))

    def need(self, flow: Floats, tail: Floats) -> tuple[Floats, Floats, Floats]:
        """Level upstream [m] that each flow [m³/s] needs over a level downstream [m], its slope
        [s/m²], and whether it moves with the level downstream (0 or 1)."""
        flow = np.maximum(flow, 0.0)
        nought = np.zeros_like(flow)
        lost, rate = nought.copy(), nought.copy()
        lost[self._full], rate[self._full] = self._bank.loss(flow[self._full])
        lift_lost, lift_rate = nought, nought
        if self._lifts.size:
            lift_lost, lift_rate = nought.copy(), nought.copy()
            lift_lost[self._lifts], lift_rate[self._lifts] = self._lift_bank.loss(flow[self._lifts])
        flat_level, flat_slope = nought, nought
        if self._tables:
            flat_level, flat_slope = nought.copy(), nought.copy()
            for i, (flows, energies) in self._tables.items():
                over = float(np.interp(flow[i], flows, energies))
                ahead = float(np.interp(1.001 * flow[i] + 1e-9, flows, energies))
                flat_level[i] = self.crest[i] + over
                flat_slope[i] = (ahead - over) / (0.001 * flow[i] + 1e-9)
        level, slope, moves = _needs(
            flow, tail, self._kinds, self.crest, self._bore, self._area, self._most,
            self._outlet, self._is_flat, self._has_line, lost, rate, lift_lost, lift_rate,
            flat_level, flat_slope,
        )  # fmt: skip
        return level, slope, moves


@lru_cache(maxsize=128)
def _flat_tables(pipes: tuple[tuple[float, float, float, float], ...]) -> tuple[Floats, Floats]:
    """Flows [m³/s] and levels over the upper invert [m] of flat pipes that end in the air, told
    by bore [m], length [m], fall [m] and K of what stands in them. Kept, since most edits leave
    them as they are."""
    bore, length, fall, loss = (np.array(c)[:, None] for c in zip(*pipes, strict=True))
    flow = np.sqrt(GRAVITY * bore**5) * _TABLE_FLOWS
    shape = np.ones_like(flow)
    energy = surface_profile(
        np.maximum(flow, 1e-12), bore * shape, length * shape, fall / length * shape, 0.0 * shape
    )
    speed = flow / (0.25 * np.pi * bore**2)
    energy = energy + loss * speed**2 / (2.0 * GRAVITY)
    energy[:, 0] = 0.0
    return flow, energy
