"""What a solids lift is through time: without its open tee, a siphon that nobody meant."""

from bathys.components.lift.model import SolidsLift
from bathys.network.gravity import GravityLine
from bathys.network.lines import Line
from bathys.physics.openings import rim_head
from bathys.physics.siphon import BREAK_SHARE_PLAIN, start_flow
from bathys.simulation.latch import FULL, SPILL, Latch

__all__ = ["latch"]


def latch(lift: SolidsLift, floor: float, plain: GravityLine) -> Latch | None:
    """It latches once its pipe cannot vent itself; with an open tee it never does.

    Parameters
    ----------
    lift : SolidsLift
        The solids lift
    floor : float
        Height of the vessel's floor over the datum, [m]
    plain : GravityLine
        Its line without a siphon

    Returns
    -------
    Latch or None
        Its two lines and what switches them; none with an open tee
    """
    if not lift.is_closed or plain.line is None or plain.lift is None:
        return None
    whole = Line([*plain.lift.pieces, *plain.line.pieces], plain.line.viscosity)
    full = GravityLine(
        plain.id + FULL,
        plain.start,
        plain.end,
        "full",
        -1e6,
        plain.bore,
        outlet=plain.outlet,
        line=whole,
    )
    begins = plain.crest + rim_head(start_flow(plain.bore), plain.bore)
    return Latch(
        lift.id,
        lift.name,
        lift.stands_in,
        begins,
        floor + lift.draws_to,
        BREAK_SHARE_PLAIN.value,
        plain._replace(id=plain.id + SPILL),
        full,
        is_meant=False,
    )
