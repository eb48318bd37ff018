"""What a solids lift is to the steady network: a mouth at its crest, with the pipe up to it."""

from collections.abc import Iterator

from bathys.components.lift.model import SolidsLift
from bathys.network.gravity import GravityLine
from bathys.network.lines import Line, Piece
from bathys.network.ways_out import Drain
from bathys.parts.fittings import MOUTHS
from bathys.parts.fouling import FOULING

__all__ = ["lines"]


def lines(lift: SolidsLift, drain: Drain) -> Iterator[GravityLine]:
    """Up from near the floor, over the crest, into the drain.

    Parameters
    ----------
    lift : SolidsLift
        The solids lift
    drain : Drain
        What it drains into

    Yields
    ------
    GravityLine
        One line
    """
    bore, tall = lift.pipe_bore, lift.crest_height - lift.intake_height
    up = [
        Piece("fitting", "mouth of the lift pipe", bore, loss=MOUTHS["inward"]),
        Piece("friction", "lift pipe", bore, length=tall, roughness=FOULING["new"].roughness),
    ]
    middle = drain.floor + lift.crest_height + 0.5 * drain.bore
    yield drain.mouth(middle, lift=Line(up, drain.line.viscosity))
