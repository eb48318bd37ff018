"""Gravity lines: the level upstream that a flow needs, for many lines at once.

A line carries the smaller of what its inlet lets in and what its bore lets through; told the other
way round, the level it needs is the greatest of three: what its mouth, rim or holes need; what a
part-full or full pipe needs that ends in the air; what a full pipe needs that ends under water.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bathys.network.bank import LineBank
from bathys.network.lines import Line
from bathys.physics import GRAVITY
from bathys.physics.openings import (
    ORIFICE_COEFFICIENT,
    RIM_ORIFICE_COEFFICIENT,
    RIM_WEIR_COEFFICIENT,
)
from bathys.physics.part_full import critical_depth, entry_head, section, surface_profile
from bathys.physics.siphon import start_flow

__all__ = ["FLAT_SLOPE", "GravityBank", "GravityLine", "InletKind"]

Floats = NDArray[np.float64]
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


@dataclass
class GravityBank:
    """The laws of several gravity lines in flat arrays.

    Attributes
    ----------
    lines : sequence of GravityLine
        The lines
    """

    lines: Sequence[GravityLine]
    _tables: dict[int, tuple[Floats, Floats]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        rows = self.lines
        kinds = np.array([r.inlet for r in rows])
        self._mouths = np.flatnonzero(kinds == "mouth")
        self._rims = np.flatnonzero((kinds == "rim") | (kinds == "bell"))
        self._most_over_rim = np.array([
            start_flow(r.bore) if r.inlet == "bell" else np.inf for r in rows
        ])  # fmt: skip
        self._holes = np.flatnonzero(kinds == "holes")
        self._brims = np.flatnonzero(kinds == "brim")
        self._full = np.flatnonzero([r.line is not None for r in rows])
        self._lifts = np.flatnonzero([r.lift is not None for r in rows])
        self._bank = LineBank([r.line for r in rows if r.line is not None])
        self._lift_bank = LineBank([r.lift for r in rows if r.lift is not None])
        self.crest = np.array([r.crest for r in rows])
        self._bore = np.array([r.bore for r in rows])
        self._area = np.array([r.area for r in rows])
        self._outlet = np.array([r.outlet for r in rows])
        self._invert = self._outlet - 0.5 * self._bore
        self._is_mouth = kinds == "mouth"
        flat = [i for i, r in enumerate(rows) if r.is_flat]
        self._is_flat = np.zeros(len(rows), dtype=bool)
        self._is_flat[flat] = True
        if flat:
            self._tabulate(flat)

    def _tabulate(self, flat: list[int]) -> None:
        """Level over the upper invert against flow, for lines flatter than critical."""
        rows = [self.lines[i] for i in flat]
        flow, energy = _flat_tables(tuple(
            (r.bore, r.level_length, r.fall, r.line.fitting_loss if r.line else 0.0) for r in rows
        ))  # fmt: skip
        self._tables = {i: (flow[k], energy[k]) for k, i in enumerate(flat)}

    def threshold(self, tail: Floats) -> Floats:
        """Level upstream [m] at which each line begins to carry, given the level downstream."""
        uphill = np.where(self._is_mouth, self._invert, self._outlet)
        return np.asarray(np.maximum(np.maximum(self.crest, uphill), tail))

    def need(self, flow: Floats, tail: Floats) -> tuple[Floats, Floats, Floats]:
        """Level upstream [m] that each flow [m³/s] needs over a level downstream [m], its slope
        [s/m²], and whether it moves with the level downstream (0 or 1)."""
        flow = np.maximum(flow, 0.0)
        head, slope = self._inlet(flow)
        level = self.crest + head
        moves = np.zeros_like(level)
        for i, (flows, energies) in self._tables.items():
            over = float(np.interp(flow[i], flows, energies))
            if self.crest[i] + over > level[i]:
                level[i] = self.crest[i] + over
                ahead = float(np.interp(1.001 * flow[i] + 1e-9, flows, energies))
                slope[i] = (ahead - over) / (0.001 * flow[i] + 1e-9)
        if self._full.size:
            self._against_outlet(flow, tail, level, slope, moves)
        return level, np.maximum(slope, _LEAST_SLOPE), moves

    def _against_outlet(
        self, flow: Floats, tail: Floats, level: Floats, slope: Floats, moves: Floats
    ) -> None:
        full = self._full
        lost, rate = self._bank.loss(flow[full])
        bore, outlet, below = self._bore[full], self._outlet[full], tail[full]
        is_mouth = self._is_mouth[full]
        yc = np.where(is_mouth, critical_depth(flow[full], np.maximum(bore, 1e-6)) * bore, 0.0)
        # A pipe that ends in the air and runs full: its jet's level at its end (HDS-5).
        free = np.where(self._is_flat[full], -np.inf, outlet + 0.5 * yc + lost)
        # One that ends under water, or in water deeper than its own critical depth.
        depth = below - self._invert[full]
        fill = np.where(is_mouth, np.clip(depth / np.maximum(bore, 1e-6), 0.3, 1.0), 1.0)
        wider = np.where(fill < 1.0, (0.25 * np.pi / section(fill).area) ** 2, 1.0)
        bent = np.maximum(rate, self._linear_rate(lost, rate, flow[full]))
        drowned = np.where(depth > yc, below + lost * wider, -np.inf)
        drowned = np.where(is_mouth, drowned, np.where(below > outlet, below + lost, -np.inf))
        here = level[full]
        is_free, is_drowned = (free > here) & (free >= drowned), (drowned > here) & (drowned > free)
        level[full] = np.maximum(np.maximum(here, free), drowned)
        slope[full] = np.where(is_free, rate, np.where(is_drowned, bent * wider, slope[full]))
        moves[full] = np.where(is_drowned, 1.0, moves[full])

    @staticmethod
    def _linear_rate(lost: Floats, rate: Floats, flow: Floats) -> Floats:
        """Slope of the straight line through no flow and the flow of a millimetre."""
        size = np.maximum(flow, 1e-9)
        at_linear = size * np.sqrt(_LINEAR_HEAD / np.maximum(lost, 1e-15))
        return np.where(lost < _LINEAR_HEAD, _LINEAR_HEAD / at_linear, rate)

    def _inlet(self, flow: Floats) -> tuple[Floats, Floats]:
        head, slope = np.zeros_like(flow), np.zeros_like(flow)
        if (at := self._mouths).size:
            head[at], slope[at] = entry_head(flow[at], self._bore[at])
        if (at := self._rims).size:
            # Under a bell the level rises until the siphon starts; then it passes what comes.
            most = self._most_over_rim[at]
            head[at], slope[at] = _rim(np.minimum(flow[at], most), self._bore[at])
            slope[at] = np.where(flow[at] < most, slope[at], 0.0)
        if (at := self._holes).size:
            scale = 1.0 / (2.0 * GRAVITY * (ORIFICE_COEFFICIENT * self._area[at]) ** 2)
            head[at], slope[at] = scale * flow[at] ** 2, 2.0 * scale * flow[at]
        if (at := self._brims).size:
            head[at], slope[at] = _weir(flow[at], _BRIM_COEFFICIENT * self._bore[at])
        if (at := self._lifts).size:
            lost, rate = self._lift_bank.loss(flow[at])
            head[at] += lost
            slope[at] += rate
        return head, slope


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


def _weir(flow: Floats, coefficient: Floats) -> tuple[Floats, Floats]:
    size = np.maximum(flow, 1e-12)
    head = (size / coefficient) ** (2.0 / 3.0)
    return np.where(flow > 0.0, head, 0.0), 2.0 / 3.0 * head / size


def _rim(flow: Floats, bore: Floats) -> tuple[Floats, Floats]:
    """Level over a rim and its slope, by the same law as ``physics.openings.rim_head``."""
    weir, weir_slope = _weir(flow, RIM_WEIR_COEFFICIENT * np.pi * bore)
    scale = 1.0 / (2.0 * GRAVITY * (RIM_ORIFICE_COEFFICIENT * 0.25 * np.pi * bore**2) ** 2)
    mouth = scale * flow**2
    is_mouth = mouth > weir
    return np.where(is_mouth, mouth, weir), np.where(is_mouth, 2.0 * scale * flow, weir_slope)
