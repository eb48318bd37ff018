"""A standpipe: the straight pieces it is cut from."""

from collections.abc import Iterator

from bathys.components.standpipe.model import Standpipe
from bathys.plan.bore import Bore

__all__ = ["pieces"]


def pieces(part: Standpipe) -> Iterator[tuple[str, Bore, float]]:
    """Straight pieces that it is made of.

    Parameters
    ----------
    part : Standpipe
        The part

    Yields
    ------
    (str, Bore, float)
        What it is, its pipe, and its length over the floor, [m]; what its fitting takes is added
        by hand
    """
    yield "standpipe", part.bore, part.rim_height
