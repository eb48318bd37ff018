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

from bathys.compiling import njit_borrowing
from bathys.network.line_arrays import LineArrays, one_line_loss
from bathys.network.lines import Line
from bathys.physics import GRAVITY
from bathys.physics.openings import (
    ORIFICE_COEFFICIENT,
    RIM_ORIFICE_COEFFICIENT,
    RIM_WEIR_COEFFICIENT,
)
from bathys.physics.part_full import (
    critical_depth,
    critical_head,
    mouth_head,
    surface_profile,
)

__all__ = [
    "FLAT_SLOPE",
    "LEAST_SLOPE",
    "TAIL_STEP",
    "GravityLine",
    "GravityLineArrays",
    "InletKind",
    "level_at",
    "level_needed",
    "needs",
]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]
InletKind = Literal["mouth", "rim", "bell", "holes", "brim", "full", "loop"]

FLAT_SLOPE = 0.012
"""Fall over length below which a drain may run flatter than critical (FHWA HDS-5: 0.4–1.1 % for
these bores, memory), so that its lower end can hold its upper end up."""

_TABLE_FLOWS = np.concatenate([[0.0], np.geomspace(5e-4, 1.2, 36)])  # Q/√(g D⁵)
_TABLE_SHARES = np.linspace(0.0, 1.0, 9)  # of the way from critical depth to a drowned crown
_BRIM_COEFFICIENT = 1.7  # broad rim of a vessel, Q = 1.7 L h^1.5 (published weir value, memory)
LEAST_SLOPE = 1e-4
"""Least slope of a level against its flow [s/m²]."""
_LINEAR_HEAD = 1e-3  # below this the loss of a pipe is taken linear in its flow [m]
TAIL_STEP = 1e-6
"""Step of a level downstream to tell how the one upstream moves with it [m]."""


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
        ``mouth`` of a pipe, ``rim`` of a standpipe, the rim under a ``bell``, the crest of a
        ``loop`` of tube, ``holes``, the
        ``brim`` of a vessel, or none in a pipe that runs ``full``
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

    most_spill: float = np.inf
    """What a siphon spills at most, since then it starts [m³/s]."""
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
            self.inlet == "mouth"
            and self.level_length > 0.0
            and self.fall < FLAT_SLOPE * self.level_length
        )


_MOUTH, _RIM, _BELL, _HOLES, _BRIM, _FULL, _LOOP = range(7)
_KINDS: dict[InletKind, int] = {
    "mouth": _MOUTH,
    "rim": _RIM,
    "bell": _BELL,
    "holes": _HOLES,
    "brim": _BRIM,
    "full": _FULL,
    "loop": _LOOP,
}
_RIM_ORIFICE = 1.0 / (2.0 * GRAVITY * (RIM_ORIFICE_COEFFICIENT * 0.25 * math.pi) ** 2)
_HOLE_ORIFICE = 1.0 / (2.0 * GRAVITY * ORIFICE_COEFFICIENT**2)


@njit_borrowing
def _weir(flow: float, coefficient: float) -> float:
    return (flow / coefficient) ** (2.0 / 3.0)


@njit_borrowing
def _rim(flow: float, bore: float) -> float:
    """Level over a rim, by the same law as ``physics.openings.rim_head``."""
    mouth = _RIM_ORIFICE / bore**4 * flow * flow
    return max(_weir(flow, RIM_WEIR_COEFFICIENT * math.pi * bore), mouth)


@njit_borrowing
def _inlet(kind: int, flow: float, bore: float, area: float, most: float) -> float:
    if flow <= 0.0 or kind == _FULL:
        return 0.0
    if kind == _MOUTH:
        return mouth_head(flow, bore)[0]
    if kind == _RIM:
        return _rim(flow, bore)
    if kind == _BELL:
        # Under a bell the level rises until the siphon starts; then it passes what comes.
        return _rim(min(flow, most), bore)
    if kind == _LOOP:
        return mouth_head(min(flow, most), bore)[0]
    if kind == _HOLES:
        return _HOLE_ORIFICE / (area * area) * flow * flow
    return _weir(flow, _BRIM_COEFFICIENT * bore)


@njit_borrowing
def _flat(flow: float, share: float, flows: Floats, heads: Floats) -> float:
    """Level over the upper invert of a flat pipe, from its table: straight in the root of the flow
    and in the share of the way that its lower end is drowned."""
    i = min(max(int(np.searchsorted(flows, flow)) - 1, 0), flows.size - 2)
    one, two = math.sqrt(flows[i]), math.sqrt(flows[i + 1])
    along = (math.sqrt(flow) - one) / (two - one)
    place = min(max(share, 0.0), 1.0) * (heads.shape[1] - 1)
    j = min(int(place), heads.shape[1] - 2)
    over = place - j
    low = heads[i, j] + over * (heads[i, j + 1] - heads[i, j])
    high = heads[i + 1, j] + over * (heads[i + 1, j + 1] - heads[i + 1, j])
    return low + along * (high - low)


@njit_borrowing
def _level(
    flow: float,
    tail: float,
    kind: int,
    crest: float,
    bore: float,
    area: float,
    most: float,
    outlet: float,
    lost: float,
    lift: float,
    flat: float,
) -> float:
    """Level upstream that a flow needs; ``lost`` is nan without a pipe, ``flat`` in a steep one."""
    here = crest + _inlet(kind, flow, bore, area, most) + lift
    if np.isnan(lost):
        # Holes and a rim under water on both sides pass by the difference of the two.
        return here + max(tail - crest, 0.0)
    if kind != _MOUTH:
        here = max(here, outlet + lost)
        return max(here, tail + lost) if tail > outlet else here
    critical = critical_head(flow, bore)
    depth = tail - outlet + 0.5 * bore
    is_steep = np.isnan(flat)
    if not is_steep:
        here = max(here, flat)
    # A steep pipe that ends in the air holds its inlet up only once it runs nearly full; its jet
    # then stands half way between its critical depth and its crown (HDS-5).
    full = min(max(4.0 * critical / bore - 2.0, 0.0), 1.0) if is_steep else 0.0
    jet = here + full * (outlet + 0.5 * critical + lost - here)
    # A valve in it, or an end that lies high, fills the pipe behind it whatever the flow, as soon
    # as what it asks for reaches the mouth's crown; its end then runs at critical depth.
    backed = outlet - 0.5 * bore + critical + lost
    pressed = min(max(2.0 * ((backed - crest) / bore - 1.0), 0.0), 1.0)
    here = max(here, jet, here + pressed * (backed - here))
    return max(here, tail + lost) if depth > critical else here


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
    kind, pipe, lift, table = kinds[i]
    crest, bore, area, most, outlet = numbers[i]
    lost, lifted, flat = np.nan, 0.0, np.nan
    if pipe >= 0:
        lost = one_line_loss(flow, pipe, minor, first, pipes, viscosity)
        if lost < _LINEAR_HEAD:
            # Straight between nothing and a millimetre: a square root is stiff there.
            lost = math.sqrt(lost * _LINEAR_HEAD)
    if lift >= 0:
        lifted = one_line_loss(flow, lift, minor, first, pipes, viscosity)
    if table >= 0:
        # From its own critical depth to a drowned crown the tail lifts the whole surface with it.
        critical = critical_head(flow, bore)
        share = (tail - outlet + 0.5 * bore - critical) / max(bore - critical, 1e-6)
        flat = crest + _flat(flow, share, flat_flows[table], flat_energies[table])
    return _level(flow, tail, kind, crest, bore, area, most, outlet, lost, lifted, flat)


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


class GravityLineArrays:
    """The laws of several gravity lines in flat arrays.

    Parameters
    ----------
    lines : sequence of GravityLine
        The lines
    """

    def __init__(self, lines: Sequence[GravityLine]) -> None:
        self.lines = lines
        kinds = np.array([_KINDS[r.inlet] for r in lines], dtype=np.int64)
        self.crest = np.array([r.crest for r in lines])
        bore = np.array([r.bore for r in lines])
        outlet = np.array([r.outlet for r in lines])
        self.begins = np.maximum(self.crest, outlet - np.where(kinds == _MOUTH, 0.5 * bore, 0.0))
        pipes = [r.line for r in lines if r.line is not None]
        lifts = [r.lift for r in lines if r.lift is not None]
        bank = LineArrays([*pipes, *lifts])
        flat = [i for i, r in enumerate(lines) if r.is_flat]
        flows, energies = _flat_tables(
            tuple(
                (r.bore, r.level_length, r.fall, r.line.fitting_loss if r.line else 0.0)
                for r in (lines[i] for i in flat)
            )
        )
        numbers = np.array(
            [(r.crest, r.bore, r.area, r.most_spill, r.outlet) for r in lines], dtype=np.float64
        ).reshape(-1, 5)
        places = np.array(
            [
                kinds,
                _places([r.line is not None for r in lines], 0),
                _places([r.lift is not None for r in lines], len(pipes)),
                _places([r.is_flat for r in lines], 0),
            ]
        )
        self.laws = (
            np.ascontiguousarray(places.T),
            numbers,
            flows,
            energies,
            bank.minor,
            bank.first,
            bank.pipes,
            bank.viscosity,
        )

    def threshold(self, tail: Floats) -> Floats:
        """Level upstream [m] at which each line begins to carry, given the level downstream."""
        return np.asarray(np.maximum(self.begins, tail))

    def need(self, flow: Floats, tail: Floats) -> tuple[Floats, Floats, Floats]:
        """Level upstream [m] that each flow [m³/s] needs over a level downstream [m], its slope
        [s/m²], and how far it moves with the level downstream [-]."""
        level, slope, moves = needs(np.maximum(flow, 0.0), tail, *self.laws)
        return level, slope, moves


def _places(has: Sequence[bool], start: int) -> Places:
    """Running numbers of those that have something, -1 for the rest."""
    marks = np.array(has, dtype=bool)
    return np.where(marks, np.cumsum(marks) - 1 + start, -1).astype(np.int64)


@lru_cache(maxsize=128)
def _flat_tables(pipes: tuple[tuple[float, float, float, float], ...]) -> tuple[Floats, Floats]:
    """Flows [m³/s], shape (pipes, flows), and levels over the upper invert [m], shape (pipes,
    flows, shares), of flat pipes told by bore [m], length [m], fall [m] and K of what stands in
    them; a share is how far the water downstream stands from critical depth to the crown. Kept,
    since most edits leave them as they are."""
    if not pipes:
        return np.zeros((0, 2)), np.zeros((0, 2, 2))
    bore, length, fall, loss = (np.array(c)[:, None, None] for c in zip(*pipes, strict=True))
    flow = np.sqrt(GRAVITY * bore**5) * _TABLE_FLOWS[:, None]
    shape = np.ones((len(pipes), _TABLE_FLOWS.size, _TABLE_SHARES.size))
    some = np.maximum(flow, 1e-12) * shape
    critical = critical_depth(some, bore * shape) * bore
    tail = critical + _TABLE_SHARES * (bore - critical)
    tail[:, :, 0] = 0.0
    heads = surface_profile(
        some, bore * shape, length * shape, fall / length * shape, tail, mouth_loss=loss * shape
    )
    still = np.maximum(_TABLE_SHARES * bore - fall, np.maximum(-fall, 0.0))
    heads[:, :1, :] = still
    return flow[:, :, 0].copy(), heads
