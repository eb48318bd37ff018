"""Pipe and fittings that a plan takes."""

from dataclasses import dataclass

from bathys.build.cutting import Piece
from bathys.evaluation import Evaluation
from bathys.kinds import facets, kind_of
from bathys.parts.fittings import FITTINGS, JUNCTIONS
from bathys.plan.bore import Bore
from bathys.plan.pipes import Run

__all__ = ["FittingCount", "PipeNeed", "fitting_counts", "pipe_pieces"]

_NOTHING = 1e-3  # a piece so short is none [m]


@dataclass(frozen=True, slots=True)
class PipeNeed:
    """All pipe of one size.

    Attributes
    ----------
    size : str
        As it is sold, such as ``1 in``; empty where only the bore is known
    standard : str
        Its standard; empty with it
    bore : float
        Inside, [m]
    pieces : tuple of Piece
        Straight pieces, named by their runs
    """

    size: str
    standard: str
    bore: float
    pieces: tuple[Piece, ...]

    @property
    def length(self) -> float:
        """In all [m]."""
        return sum(p.length for p in self.pieces)

    @property
    def is_by_bore(self) -> bool:
        """Whether only its bore is known: hose, or pipe of no standard."""
        return not self.standard


@dataclass(frozen=True, slots=True)
class FittingCount:
    """Fittings of one kind and size.

    Attributes
    ----------
    kind : str
        As a plan names it
    name : str
        In the trade
    size : str
        As it is sold, of a reducer both; empty where only the bore is known
    bore : float
        Inside, [m]
    count : int
        How many
    """

    kind: str
    name: str
    size: str
    bore: float
    count: int


def pipe_pieces(found: Evaluation) -> tuple[PipeNeed, ...]:
    """Straight pieces of pipe: the level and the upright part of every run, and what siphons and
    upright outlets are made of.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of PipeNeed
        By size, the widest first. What fittings take up is not taken off: each piece is cut to
        fit; a level part with corners in it is cut at them
    """
    needs: dict[tuple[str, str, float], list[Piece]] = {}
    for run in found.plan.runs:
        whole = found.runs[run.id].length
        level = min(run.level_length, whole)
        key = _size(run)
        for part, length in (("level", level), ("upright", whole - level)):
            if length > _NOTHING:
                needs.setdefault(key, []).append(Piece(f"{run.id} {part}", length))
    tells = facets("pieces")
    for way_out in (*found.plan.siphons, *found.plan.outlets):
        module = tells.get(type(way_out))
        for name, bore, length in module.pieces(way_out) if module is not None else ():
            needs.setdefault(_size_of(bore), []).append(Piece(f"{way_out.id} {name}", length))
    rows = [PipeNeed(*key, tuple(pieces)) for key, pieces in needs.items()]
    return tuple(sorted(rows, key=lambda need: (need.is_by_bore, -need.bore)))


def _size(run: Run) -> tuple[str, str, float]:
    return _size_of(run.bore)


def _size_of(bore: Bore) -> tuple[str, str, float]:
    if bore.size is None:
        return "", "", bore.inside
    return bore.size.nominal, bore.size.standard, bore.inside


def fitting_counts(found: Evaluation) -> tuple[FittingCount, ...]:
    """Fittings, tees and valves of a plan, to buy.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of FittingCount
        By name and size
    """
    counts: dict[tuple[str, float, str, str], int] = {}

    def add(kind: str, name: str, size: str, bore: float, count: int) -> None:
        key = name, bore, size, kind
        counts[key] = counts.get(key, 0) + count

    for run in found.plan.runs:
        size = _size(run)[0]
        for fitting in run.fittings:
            other = getattr(fitting, "other_bore", None)  # of a reducer
            sizes = f"{size} to {other.size.nominal}" if other is not None and other.size else size
            add(fitting.kind, FITTINGS[fitting.kind].name, sizes, run.bore.inside, fitting.count)
        if run.valve is not None:
            name = run.valve.CHOICE
            add(kind_of(type(run.valve)), name, size, run.bore.inside, 1)
    for junction in found.plan.junctions:
        if junction.kind in ("tee", "wye"):
            legs = [r for r in found.plan.runs if junction.id in (r.start, r.end)]
            widest = max(legs, key=lambda r: r.bore.inside, default=None)
            if widest is not None:
                name = JUNCTIONS[junction.kind].name
                add(junction.kind, name, _size(widest)[0], widest.bore.inside, 1)
    return tuple(
        FittingCount(kind, name, size, bore, count)
        for (name, bore, size, kind), count in sorted(counts.items())
    )
