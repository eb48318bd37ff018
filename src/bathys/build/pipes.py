"""Pipe and fittings that a plan takes."""

from dataclasses import dataclass

from bathys.build.cutting import Piece
from bathys.evaluation import Evaluation
from bathys.parts.fittings import FITTINGS
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
    name : str
        In the trade
    size : str
        As it is sold, of a reducer both; empty where only the bore is known
    bore : float
        Inside, [m]
    count : int
        How many
    """

    name: str
    size: str
    bore: float
    count: int


def pipe_pieces(found: Evaluation) -> tuple[PipeNeed, ...]:
    """Straight pieces of pipe of every run: its level part and its upright part.

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
    rows = [PipeNeed(*key, tuple(pieces)) for key, pieces in needs.items()]
    return tuple(sorted(rows, key=lambda need: (need.is_by_bore, -need.bore)))


def _size(run: Run) -> tuple[str, str, float]:
    size = run.bore.size
    if size is None:
        return "", "", run.bore.inside
    return size.nominal, size.standard, run.bore.inside


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
    counts: dict[tuple[str, float, str], int] = {}

    def add(name: str, size: str, bore: float, count: int) -> None:
        counts[name, bore, size] = counts.get((name, bore, size), 0) + count

    for run in found.plan.runs:
        size = _size(run)[0]
        for fitting in run.fittings:
            other = getattr(fitting, "other_bore", None)  # of a reducer
            sizes = f"{size} to {other.size.nominal}" if other is not None and other.size else size
            add(FITTINGS[fitting.kind].name, sizes, run.bore.inside, fitting.count)
        if run.valve is not None:
            add("valve", size, run.bore.inside, 1)
    for junction in found.plan.junctions:
        if junction.kind in ("tee", "wye"):
            legs = [r for r in found.plan.runs if junction.id in (r.start, r.end)]
            widest = max(legs, key=lambda r: r.bore.inside, default=None)
            if widest is not None:
                add(junction.kind, _size(widest)[0], widest.bore.inside, 1)
    return tuple(
        FittingCount(name, size, bore, count)
        for (name, bore, size), count in sorted(counts.items())
    )
