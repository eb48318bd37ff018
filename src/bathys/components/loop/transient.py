"""What a loop siphon is through time: bulkhead, tube and bend."""

from bathys.components.loop.model import LoopSiphon
from bathys.network import Piece
from bathys.parts.fittings import MOUTHS
from bathys.plan.pipes import Run
from bathys.simulation.crest import Crest

__all__ = ["crest"]

_BEND_LOSS = 0.6  # the two half turns of a loop of tube, together (assumed)


def crest(siphon: LoopSiphon, tail: Run) -> Crest:
    """In at the bulkhead, up the tube; over the top water is at its critical depth.

    Parameters
    ----------
    siphon : LoopSiphon
        The siphon
    tail : Run
        Its tail

    Returns
    -------
    Crest
        What it loses on its way up, and the law of its crest
    """
    bore = siphon.pipe_bore
    up = Piece(
        "friction",
        "tube up to the crest",
        bore,
        length=siphon.crest_height - siphon.bulkhead_height,
        roughness=tail.wall.roughness,
    )
    pieces = [
        Piece("fitting", "bulkhead", bore, loss=MOUTHS["flush"]),
        up,
        Piece("fitting", "bend at the crest", bore, loss=_BEND_LOSS),
    ]
    return Crest(pieces, [], "mouth")
