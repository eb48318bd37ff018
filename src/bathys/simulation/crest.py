"""What a kind of siphon tells of itself: the way its water takes, and what breaks it."""

from dataclasses import dataclass
from typing import Literal

from bathys.network import Piece

__all__ = ["Crest"]


@dataclass(frozen=True, slots=True)
class Crest:
    """A crest line.

    Attributes
    ----------
    pieces : list of Piece
        What the water passes up to the crown
    after : list of Piece
        The pipe after that which is not of the tail
    spills_over : str
        What it spills over with air still in it: the ``rim`` of a pipe, or the ``mouth`` of one
        that lies level
    annulus : float
        Area between bell and standpipe, 0 without a bell, [m²]
    """

    pieces: list[Piece]
    after: list[Piece]
    spills_over: Literal["rim", "mouth"]
    annulus: float = 0.0
