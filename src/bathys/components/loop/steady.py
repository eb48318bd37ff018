"""What a loop siphon is to the steady network: its crest, passing all inflow once it runs."""

from collections.abc import Iterator

from bathys.components.loop.model import LoopSiphon
from bathys.network.gravity import GravityLine
from bathys.network.lines import Piece
from bathys.network.ways_out import Drain, most_spill
from bathys.parts.fittings import MOUTHS

__all__ = ["lines"]


def lines(siphon: LoopSiphon, drain: Drain) -> Iterator[GravityLine]:
    """In at the bulkhead, up the tube, over its crest and into the tail.

    Parameters
    ----------
    siphon : LoopSiphon
        The siphon
    drain : Drain
        What it drains into

    Yields
    ------
    GravityLine
        One line
    """
    bore = siphon.pipe_bore
    up = siphon.crest_height - siphon.bulkhead_height
    whole = drain.after(
        [
            Piece("fitting", "bulkhead", bore, loss=MOUTHS["flush"]),
            drain.upright("tube up to the crest", bore, up),
        ]
    )
    yield drain.over("loop", siphon.crest_height, bore, whole, most_spill(siphon))
