"""A bell siphon: the straight pieces it is cut from."""

from collections.abc import Iterator

from bathys.components.bell.model import BellSiphon
from bathys.plan.bore import Bore

__all__ = ["pieces"]


def pieces(part: BellSiphon) -> Iterator[tuple[str, Bore, float]]:
    """Straight pieces that it is made of.

    Parameters
    ----------
    part : BellSiphon
        The part

    Yields
    ------
    (str, Bore, float)
        What it is, its pipe, and its length over the floor, [m]; what its fitting takes is added
        by hand
    """
    yield "standpipe", part.standpipe_bore, part.rim_height
    yield "bell", part.bell_bore, part.cap_height
