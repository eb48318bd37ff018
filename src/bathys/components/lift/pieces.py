"""A solids lift: the straight pieces it is cut from."""

from collections.abc import Iterator

from bathys.components.lift.model import SolidsLift
from bathys.plan.bore import Bore

__all__ = ["pieces"]


def pieces(part: SolidsLift) -> Iterator[tuple[str, Bore, float]]:
    """Straight pieces that it is made of.

    Parameters
    ----------
    part : SolidsLift
        The part

    Yields
    ------
    (str, Bore, float)
        What it is, its pipe, and its length over the floor, [m]; what its fitting takes is added
        by hand
    """
    yield "lift pipe", part.bore, part.crest_height - part.intake_height
