"""How far to turn a valve for a wanted flow."""

from bathys.network.runs import fouled_bore
from bathys.parts.valves import ball_valve_angle
from bathys.physics import GRAVITY, area_of
from bathys.simulation import PumpedBedLoop

__all__ = ["throttling_angle"]


def throttling_angle(loop: PumpedBedLoop, flow: float, bed_level: float) -> float | None:
    """Handle angle of a ball valve on the riser that passes a flow.

    What the pump makes at that flow, less the lift and all other losses, is left for the valve:
    h = K V²/2g gives K, and the valve's table the angle.

    Parameters
    ----------
    loop : PumpedBedLoop
        The loop
    flow : float
        Flow wanted, above 0, [m³/s]
    bed_level : float
        Bed level over its floor at which it is wanted, [m]

    Returns
    -------
    float or None
        Angle from open, [°]; none where even an open valve passes less
    """
    surface = loop.bed.floor_height + bed_level
    lift = max(loop.outlet, surface) - float(loop.tank_level(bed_level))
    others = sum(h for piece, h in loop.line.losses_by_piece(flow) if piece.kind != "valve")
    left = loop.curve.head(flow)[0] - lift - others
    if left < 0.0:
        return None
    velocity_head = (flow / area_of(fouled_bore(loop.riser))) ** 2 / (2.0 * GRAVITY)
    return ball_valve_angle(left / velocity_head)
