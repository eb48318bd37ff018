"""What a standpipe is to the steady network: a rim, and with small holes low down a foot that both
lead to."""

import math
from collections.abc import Iterator

from bathys.components.standpipe.model import Standpipe
from bathys.network.gravity import GravityLine
from bathys.network.lines import Line, Piece
from bathys.network.ways_out import FOOT, Drain
from bathys.parts.fittings import ANNULUS_ENTRY_LOSS
from bathys.physics import area_of
from bathys.physics.openings import orifice_loss_coefficient

__all__ = ["lines"]


def lines(pipe: Standpipe, drain: Drain) -> Iterator[GravityLine]:
    """Over the rim and down into the drain; through the holes to the foot.

    Parameters
    ----------
    pipe : Standpipe
        The standpipe
    drain : Drain
        What it drains into

    Yields
    ------
    GravityLine
        One line over the rim, one through the holes
    """
    bore, rim = pipe.pipe_bore, pipe.crest_height
    sleeve = _through_sleeve(pipe, drain)
    share = pipe.screen.open_share if pipe.screen is not None else 1.0
    if not pipe.holes:
        whole = drain.after([drain.upright("standpipe", bore, rim)])
        over = drain.over("rim", rim, bore, whole, math.inf)
        yield over._replace(lift=sleeve, open_share=share)
        return
    foot, floor = pipe.id + FOOT, drain.floor
    yield GravityLine(
        drain.run.id,
        foot,
        drain.end,
        "mouth",
        floor - 0.5 * bore,
        bore,
        outlet=drain.outlet,
        line=drain.line,
    )
    yield GravityLine(
        pipe.id + ".rim",
        drain.vessel,
        foot,
        "rim",
        floor + rim,
        bore,
        lift=sleeve,
        open_share=share,
    )
    yield GravityLine(
        pipe.id + ".holes",
        drain.vessel,
        foot,
        "holes",
        floor + pipe.hole_height,
        area=pipe.drilled.area,
        lift=sleeve,
    )


def _through_sleeve(pipe: Standpipe, drain: Drain) -> Line | None:
    """In by the holes at the sleeve's foot and up between the two pipes; none without a sleeve."""
    if pipe.sleeve is None:
        return None
    as_bore = math.sqrt(4.0 / math.pi)
    gap = area_of(pipe.sleeve.bore.inside) - area_of(pipe.bore.outside)
    pieces = [
        Piece(
            "opening",
            "holes at the sleeve's foot",
            as_bore * math.sqrt(pipe.sleeve.area),
            loss=orifice_loss_coefficient(),
        ),
        Piece(
            "opening",
            "between sleeve and standpipe",
            as_bore * math.sqrt(gap),
            loss=ANNULUS_ENTRY_LOSS,
        ),
    ]
    return Line(pieces, drain.line.viscosity)
