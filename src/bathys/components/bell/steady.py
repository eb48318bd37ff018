"""What a bell siphon is to the steady network: its standpipe's rim, passing all inflow once it
runs."""

from collections.abc import Iterator

from bathys.components.bell.model import BellSiphon
from bathys.network.gravity import GravityLine
from bathys.network.ways_out import Drain, most_spill

__all__ = ["lines"]


def lines(siphon: BellSiphon, drain: Drain) -> Iterator[GravityLine]:
    """Over the rim and down the standpipe into the tail.

    Parameters
    ----------
    siphon : BellSiphon
        The siphon
    drain : Drain
        What it drains into

    Yields
    ------
    GravityLine
        One line for each way the water takes
    """
    bore = siphon.pipe_bore
    whole = drain.after([drain.upright("standpipe", bore, siphon.rim_height)])
    yield drain.over("bell", siphon.rim_height, bore, whole, most_spill(siphon))
