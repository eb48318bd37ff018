"""Gravity lines: the level upstream that a flow needs, for many lines at once.

A line carries the smaller of what its inlet lets in and what its bore lets through; told the other
way round, the level it needs is the greatest of three: what its mouth, rim or holes need; what a
part-full or full pipe needs that ends in the air; what a full pipe needs that ends under water.
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from bathys.network.flow_laws import (
    BELL,
    BRIM,
    FULL,
    HOLES,
    LOOP,
    MOUTH,
    NOTCH,
    RIM,
    WEIR,
)
from bathys.network.gravity_laws import needs
from bathys.network.line_arrays import LineArrays
from bathys.network.lines import Line
from bathys.physics import GRAVITY
from bathys.physics.part_full import critical_depth, surface_profile

__all__ = ["FLAT_SLOPE", "GravityLine", "GravityLineArrays", "InletKind"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]
InletKind = Literal["mouth", "rim", "bell", "holes", "brim", "full", "loop", "weir", "notch"]

FLAT_SLOPE = 0.012
"""Fall over length below which a drain may run flatter than critical (FHWA HDS-5: 0.4–1.1 % for
these bores, memory), so that its lower end can hold its upper end up."""

_TABLE_FLOWS = np.concatenate([[0.0], np.geomspace(5e-4, 1.2, 36)])  # Q/√(g D⁵)
_TABLE_SHARES = np.linspace(0.0, 1.0, 9)  # of the way from critical depth to a drowned crown


class GravityLine(NamedTuple):
    """One gravity line between two nodes.

    Attributes
    ----------
    id : str
        Its name
    start, end : str or None
        Nodes it joins; none where what it carries is lost
    inlet : str
        ``mouth`` of a pipe, ``rim`` of a standpipe, the rim under a ``bell``, the crest of a
        ``loop`` of tube, ``holes``, the straight edge of a ``weir``, a V-``notch``, the ``brim``
        of a vessel, or none in a pipe that runs ``full``
    crest : float
        Level at which it begins to carry: an invert, a rim or the holes' centre, [m]
    bore : float
        Of the mouth or rim; the length of a brim, [m]
    area : float
        Open area of holes, [m²]; of a weir or notch its flow a metre over it, [m³/s]
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

    open_share: float = 1.0
    """Share of a rim that a screen leaves open [-]."""
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


_KINDS: dict[InletKind, int] = {
    "mouth": MOUTH,
    "rim": RIM,
    "bell": BELL,
    "holes": HOLES,
    "brim": BRIM,
    "full": FULL,
    "loop": LOOP,
    "weir": WEIR,
    "notch": NOTCH,
}


class GravityLineArrays:
    """The laws of several gravity lines in flat arrays.

    Parameters
    ----------
    lines : sequence of GravityLine
        The lines
    """

    def __init__(self, lines: Sequence[GravityLine]) -> None:
        self.lines = lines
        self._ends: tuple[tuple[str, ...], Places, Places] | None = None
        kinds = np.array([_KINDS[r.inlet] for r in lines], dtype=np.int64)
        self.crest = np.array([r.crest for r in lines])
        bore = np.array([r.bore for r in lines])
        outlet = np.array([r.outlet for r in lines])
        self.begins = np.maximum(self.crest, outlet - np.where(kinds == MOUTH, 0.5 * bore, 0.0))
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
            [
                (
                    r.crest,
                    r.bore,
                    r.open_share if r.inlet == "rim" else r.area,
                    r.most_spill,
                    r.outlet,
                )
                for r in lines
            ],
            dtype=np.float64,
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

    def ends_at(self, nodes: tuple[str, ...]) -> tuple[Places, Places]:
        """Number of the node at which each line begins and ends among these; their count where it
        is none of them. The last are kept: a balance asks for the same again and again."""
        kept = self._ends
        if kept is None or kept[0] != nodes:
            place = {n: i for i, n in enumerate(nodes)}
            starts = np.array([place.get(k.start, len(nodes)) for k in self.lines], dtype=np.int64)
            ends = [place.get(k.end or "", len(nodes)) for k in self.lines]
            kept = self._ends = (nodes, starts, np.array(ends, dtype=np.int64))
        return kept[1:]

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
