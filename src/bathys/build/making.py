"""Vessels made of containers and boards: which totes they are cut from, boards and liner, rafts."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.containers import Container, containers
from bathys.physics import GRAVITY
from bathys.plan.model import Plan
from bathys.plan.vessel import Vessel

__all__ = [
    "SITE",
    "LinedBoxParts",
    "RaftBoards",
    "ToteCut",
    "lined_boxes",
    "raft_boards",
    "tote_cuts",
]

_CUT = 0.01  # that a cut round a tote takes, with its edge smoothed [m]
_SAME = 0.02  # footprints that are of one tote [m]
_SHORT = 0.45  # share of a tote's height up to which a piece may be of either end
SITE = 0.025
"""Hole of a plant in a raft board, for a cube of 1 in (common practice) [m]."""
_BOARD = 1.25  # longest board of foam as it is sold (common practice) [m]
_FINGER = 0.015  # gap by which a board comes out (common practice) [m]


@dataclass(frozen=True, slots=True)
class ToteCut:
    """A tote and what is cut from it.

    Attributes
    ----------
    tote : Container
        The whole tote
    foot, top : Vessel or None
        What its foot becomes, and its top turned over
    left : float
        Height of what is left between them, [m]
    """

    tote: Container
    foot: Vessel | None
    top: Vessel | None
    left: float

    @property
    def vessels(self) -> tuple[Vessel, ...]:
        """What is made of it."""
        return tuple(v for v in (self.foot, self.top) if v is not None)


def tote_cuts(plan: Plan) -> tuple[ToteCut, ...]:
    """Totes that a plan takes, and what is cut from each.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of ToteCut
        The tallest pieces first; each with the tallest other one that fits at its other end. A low
        piece may be of either end; vessels whose sizes no whole tote has are left out
    """
    whole = [c for c in containers() if c.shape["kind"] == "tote"]
    cuts: list[ToteCut] = []
    sizes = {(c.shape["length"], c.shape["width"]) for c in whole}
    for size in sorted(sizes, reverse=True):
        tote = max(
            (c for c in whole if (c.shape["length"], c.shape["width"]) == size),
            key=lambda c: float(c.shape["height"]),
        )
        pieces = [v for v in plan.vessels if v.shape.cut_from and _is_of(v, tote)]
        cuts += _paired(sorted(pieces, key=lambda v: -v.shape.height), tote)
    return tuple(cuts)


def _is_of(vessel: Vessel, tote: Container) -> bool:
    shape = tote.shape
    sides = (getattr(vessel.shape, "length", 0.0), getattr(vessel.shape, "width", 0.0))
    return bool(
        abs(sides[0] - shape["length"]) <= _SAME
        and abs(sides[1] - shape["width"]) <= _SAME
        and vessel.shape.height <= shape["height"] + _SAME
    )


def _paired(pieces: Sequence[Vessel], tote: Container) -> list[ToteCut]:
    tall = float(tote.shape["height"])
    left = list(pieces)
    cuts = []
    while left:
        one = left.pop(0)
        other = next((v for v in left if _go_together(one, v, tall)), None)
        if other is not None:
            left.remove(other)
        is_top = one.shape.cut_from == "top" or (
            other is not None and other.shape.height > _SHORT * tall
        )
        foot, top = (other, one) if is_top else (one, other)
        used = sum(v.shape.height + _CUT for v in (foot, top) if v is not None)
        cuts.append(ToteCut(tote, foot, top, max(tall - used, 0.0)))
    return cuts


def _go_together(one: Vessel, two: Vessel, tall: float) -> bool:
    """Whether two pieces are of one tote: at most one of them must be its foot, at most one its
    top."""
    if one.shape.height + two.shape.height + _CUT > tall:
        return False
    ends = [
        "either"
        if v.shape.height <= _SHORT * tall and v.shape.cut_from == "foot"
        else v.shape.cut_from
        for v in (one, two)
    ]
    return "either" in ends or ends[0] != ends[1]


@dataclass(frozen=True, slots=True)
class LinedBoxParts:
    """A timber box with a liner.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    boards : tuple of (int, float, float)
        How many of each, how long and how high, [-, m, m]
    liner : (float, float)
        Length and width of its sheet, [m]
    load : float
        Of the water on a metre of wall, [N/m]
    """

    vessel: Vessel
    boards: tuple[tuple[int, float, float], ...]
    liner: tuple[float, float]
    load: float


def lined_boxes(found: Evaluation) -> tuple[LinedBoxParts, ...]:
    """Every timber box with a liner.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of LinedBoxParts
        Their boards by inside lengths: what corners take is the builder's joint. The load is that
        of water up to the rim, ρ g h²/2
    """
    rows = []
    for vessel in found.plan.vessels:
        liner = vessel.shape.liner
        if liner is None:
            continue
        length = float(getattr(vessel.shape, "length", 0.0))
        width = float(getattr(vessel.shape, "width", 0.0))
        tall = vessel.shape.height
        load = 0.5 * found.water.density * GRAVITY * tall**2
        rows.append(LinedBoxParts(vessel, ((2, length, tall), (2, width, tall)), liner, load))
    return tuple(rows)


@dataclass(frozen=True, slots=True)
class RaftBoards:
    """Boards that float on a raft.

    Attributes
    ----------
    vessel : Vessel
        The raft
    count : int
        How many boards
    length, width : float
        Of each, with a finger's gap, [m]
    sites : int
        Plants on each; 0 where no crop is told
    spacing : float
        From plant to plant, [m]; 0 where no crop is told
    """

    vessel: Vessel
    count: int
    length: float
    width: float
    sites: int
    spacing: float

    @property
    def places(self) -> tuple[tuple[float, float], ...]:
        """Middles of the holes of a board from its lower left corner [m]: a square grid, as far
        from one edge as from the other."""
        if not self.sites:
            return ()
        along, across = (_row(side, self.spacing) for side in (self.length, self.width))
        return tuple((x, y) for y in across for x in along)


def _row(side: float, spacing: float) -> list[float]:
    """Places of a row of plants along a side [m]."""
    count = max(int(side / spacing), 1)
    first = 0.5 * (side - (count - 1) * spacing)
    return [first + n * spacing for n in range(count)]


def raft_boards(plan: Plan) -> tuple[RaftBoards, ...]:
    """Boards of every raft.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of RaftBoards
        As few boards as foam is sold for, all alike
    """
    rows = []
    for vessel in plan.vessels:
        if not vessel.use.has_rafts:
            continue
        sides = vessel.shape.sides
        across = [max(math.ceil(side / _BOARD - 1e-9), 1) for side in sides]
        length, width = (side / n - _FINGER for side, n in zip(sides, across, strict=True))
        each = vessel.crop.grows.sites if vessel.crop is not None else 0.0
        spacing = 1.0 / math.sqrt(each) if each > 0.0 else 0.0
        rows_of = [_row(side, spacing) for side in (length, width)] if spacing > 0.0 else [[], []]
        sites = len(rows_of[0]) * len(rows_of[1])
        rows.append(RaftBoards(vessel, across[0] * across[1], length, width, sites, spacing))
    return tuple(rows)
