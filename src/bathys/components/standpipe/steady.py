"""What a standpipe is to the steady network: a rim, and with small holes low down a foot that both
lead to."""

import math
from collections.abc import Iterator

from bathys.components.standpipe.model import Standpipe
from bathys.network.gravity import GravityLine
from bathys.network.ways_out import FOOT, Drain

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
    bore, rim = pipe.pipe_bore, pipe.rim_height
    if not pipe.holes:
        whole = drain.after([drain.upright("standpipe", bore, rim)])
        yield drain.over("rim", rim, bore, whole, math.inf)
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
    yield GravityLine(pipe.id + ".rim", drain.vessel, foot, "rim", floor + rim, bore)
    yield GravityLine(
        pipe.id + ".holes",
        drain.vessel,
        foot,
        "holes",
        floor + pipe.hole_height,
        area=pipe.drilled.area,
    )
