"""What drilled holes are to the steady network: openings that the drain begins at."""

from collections.abc import Iterator

from bathys.components.holes.model import DrilledHoles
from bathys.network.gravity import GravityLine
from bathys.network.ways_out import Drain

__all__ = ["lines"]


def lines(row: DrilledHoles, drain: Drain) -> Iterator[GravityLine]:
    """Through all holes into the drain.

    Parameters
    ----------
    row : DrilledHoles
        The row of holes
    drain : Drain
        What it drains into

    Yields
    ------
    GravityLine
        One line
    """
    yield drain.holes(row.height, row.drilled.area)
