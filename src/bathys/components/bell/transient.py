"""What a bell siphon is through time: openings at its foot, annulus, crown and standpipe."""

import math

from bathys.components.bell.model import BellSiphon
from bathys.network import Piece
from bathys.parts.fittings import ANNULUS_ENTRY_LOSS
from bathys.physics import area_of
from bathys.physics.openings import orifice_loss_coefficient
from bathys.physics.siphon import crown_turn_loss
from bathys.plan.pipes import Run
from bathys.simulation.crest import Crest

__all__ = ["crest"]


def _annulus_area(siphon: BellSiphon) -> float:
    """Area between bell and standpipe [m²]; none if the standpipe's wall fills the bell."""
    inner = siphon.standpipe_bore.outside
    return max(area_of(siphon.bell_bore.inside) - area_of(inner), 0.0)


def crest(siphon: BellSiphon, tail: Run) -> Crest:
    """In by the guard and the bell's foot, up between bell and standpipe, over the rim and down.

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
    foot = as_bore * math.sqrt(siphon.foot_area)
    guard = as_bore * math.sqrt(siphon.guard_area or 0.0)
    pieces = [
        *(
            [Piece("opening", "guard's openings", guard, loss=orifice_loss_coefficient())]
            if guard
            else []
        ),
        Piece("opening", "openings at the bell's foot", foot, loss=orifice_loss_coefficient()),
        Piece(
            "opening", "annulus", as_bore * math.sqrt(max(annulus, 1e-9)), loss=ANNULUS_ENTRY_LOSS
        ),
        Piece("fitting", "turn at the crown", bore, loss=crown_turn_loss(bore, siphon.crown_gap)),
    ]
    standpipe = Piece(
        "friction",
        "standpipe",
        bore,
        length=siphon.rim_height,
        roughness=tail.wall.roughness,
    )
    return Crest(pieces, [standpipe], "rim", annulus)
