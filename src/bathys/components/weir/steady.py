"""What a weir is to the steady network: an edge that the drain begins at."""

import math
from collections.abc import Iterator

from bathys.components.weir.model import Weir
from bathys.network.gravity import GravityLine, InletKind
from bathys.network.ways_out import Drain

__all__ = ["lines"]


def lines(weir: Weir, drain: Drain) -> Iterator[GravityLine]:
    """Over the edge into the drain.

    Parameters
    ----------
    weir : Weir
        The weir
    drain : Drain
        What it drains into

    Yields
    ------
    GravityLine
        One line
    """
    inlet: InletKind = "notch" if weir.edge == "notch" else "weir"
    over = drain.over(inlet, weir.crest_height, drain.bore, drain.line, math.inf)
    yield over._replace(area=weir.constant)
