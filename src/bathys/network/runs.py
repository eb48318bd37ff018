"""From a plan's runs and pumps to lines and curves."""

from bathys.parts.fittings import EXIT_LOSS, FITTINGS
from bathys.parts.fouling import FOULING
from bathys.parts.valves import ball_valve_loss
from bathys.physics.pump_curve import LabelCurve, PointsCurve, PumpCurve
from bathys.plan.model import LabelPump, Plan, Pump, Run

from bathys.network.lines import Line, Piece  # isort: skip

__all__ = ["NARROWEST_SHARE", "curve_of_pump", "fouled_bore", "line_of_run", "run_length"]

NARROWEST_SHARE = 0.1
"""A film never takes more than this leaves of the bore: thinner, the line counts as blocked."""


def run_length(plan: Plan, run: Run) -> float:
    """Length of pipe in a run: along the level plus the difference in height of its ends.

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        One of its runs

    Returns
    -------
    float
        Length, [m]
    """
    return run.level_length + abs(_end_height(plan, run.end) - _end_height(plan, run.start))


def _end_height(plan: Plan, port: str) -> float:
    height = plan.elevation(port)
    if height is not None:
        return height
    owner = port.partition(".")[0]
    for pump in plan.pumps:
        if pump.id == owner:
            return plan.vessel(pump.stands_in).floor_height + pump.inlet_height
    siphon = next(s for s in plan.siphons if s.id == owner)
    return plan.vessel(siphon.stands_in).floor_height


def fouled_bore(run: Run) -> float:
    """Inside diameter left by the film on a run's wall [m]."""
    return max(run.bore.inside - 2.0 * FOULING[run.fouling].thickness,
               NARROWEST_SHARE * run.bore.inside)  # fmt: skip


def line_of_run(plan: Plan, run: Run, viscosity: float) -> Line:
    """What a run loses, piece by piece, with its exit counted once.

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        One of its runs
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    Line
        Strainer, pipe, fittings, valve and exit
    """
    bore = fouled_bore(run)
    pieces = []
    pump = next((p for p in plan.pumps if run.start == f"{p.id}.out"), None)
    if pump is not None and pump.strainer_loss > 0.0:
        pieces.append(Piece("strainer", "pump strainer", bore, loss=pump.strainer_loss))
    pieces.append(
        Piece(
            "friction",
            f"pipe of {run.id}",
            bore,
            length=run_length(plan, run),
            roughness=FOULING[run.fouling].roughness,
        )
    )
    for fitting in run.fittings:
        kind = FITTINGS[fitting.kind]
        loss = fitting.count * kind.loss(bore)
        label = f"{fitting.count} × {kind.name}"
        pieces.append(Piece("fitting", label, bore, loss=loss))
    if run.valve is not None:
        label = f"valve at {run.valve.angle:.0f}°"
        pieces.append(Piece("valve", label, bore, loss=ball_valve_loss(run.valve.angle)))
    pieces.append(Piece("velocity", "jet at the outlet", bore, loss=EXIT_LOSS))
    return Line(pieces, viscosity)


def curve_of_pump(pump: Pump) -> PumpCurve:
    """The curve of a plan's pump."""
    if isinstance(pump.curve, LabelPump):
        return LabelCurve(pump.curve.max_flow, pump.curve.max_head, pump.curve.exponent)
    return PointsCurve([(p.flow, p.head) for p in pump.curve.points])
