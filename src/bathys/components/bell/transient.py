"""What a bell siphon is through time: slots, annulus, crown and standpipe."""

import math

from bathys.components.bell.model import BellSiphon
from bathys.network import Piece
from bathys.parts.fouling import FOULING
from bathys.physics import area_of
from bathys.physics.openings import orifice_loss_coefficient
from bathys.plan.pipes import Run
from bathys.simulation.crest import Crest

__all__ = ["crest"]

_ANNULUS_ENTRY_LOSS = 0.5  # flush entrance, on the annulus (Crane TP-410, memory)
_CROWN_TURN_LOSS = 1.5  # the turn over the rim and into the standpipe, on its bore (assumed)


def _annulus_area(siphon: BellSiphon) -> float:
    """Area between bell and standpipe [m²]; none if the standpipe's wall fills the bell."""
    inner = siphon.standpipe_bore.outside
    return max(area_of(siphon.bell_bore.inside) - area_of(inner), 0.0)


def crest(siphon: BellSiphon, tail: Run) -> Crest:
    """In by the slots, up between bell and standpipe, over the rim and down.

    Parameters
    ----------
    siphon : BellSiphon
        The siphon
    tail : Run
        Its tail

    Returns
    -------
    Crest
        What it loses on its way up, and the law of its crest
    """
    bore, annulus = siphon.pipe_bore, _annulus_area(siphon)
    as_bore = math.sqrt(4.0 / math.pi)
    slots = as_bore * math.sqrt(siphon.slot_area)
    pieces = [
        Piece("opening", "slots at the bell's foot", slots, loss=orifice_loss_coefficient()),
        Piece(
            "opening", "annulus", as_bore * math.sqrt(max(annulus, 1e-9)), loss=_ANNULUS_ENTRY_LOSS
        ),
        Piece("fitting", "turn at the crown", bore, loss=_CROWN_TURN_LOSS),
    ]
    standpipe = Piece(
        "friction",
        "standpipe",
        bore,
        length=siphon.rim_height,
        roughness=FOULING[tail.fouling].roughness,
    )
    return Crest(pieces, [standpipe], "rim", annulus)
