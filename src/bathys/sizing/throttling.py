"""How much head an outlet has to spare at a wanted flow, and the valve that takes it."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bathys.network import Line
from bathys.network.layout import Layout, pressure_network
from bathys.network.pumped_network import NotSolved
from bathys.network.runs import fouled_bore
from bathys.network.solving import solve
from bathys.parts.valves import ball_valve_angle, ball_valve_loss
from bathys.physics import GRAVITY, area_of
from bathys.plan.pipes import Run

__all__ = [
    "HeadMargin",
    "angle_for",
    "head_margins",
    "line_with_open_valve",
    "outlet_head",
    "valve_angle",
]

OPEN_LOSS = ball_valve_loss(0.0)
_NO_SPARE = 1e-4  # head to spare at an outlet that is as good as wide open [m]


@dataclass(frozen=True, slots=True)
class HeadMargin:
    """Heads when some outlets carry just what is wanted of them.

    Attributes
    ----------
    heads : dict
        By run, head to spare at its outlet with its valve open; below 0 it falls short, [m]
    pump_flows : dict
        Flow of each pump, [m³/s]
    """

    heads: dict[str, float]
    pump_flows: dict[str, float]


def line_with_open_valve(line: Line) -> Line:
    """A line with its valve wide open, if it has one.

    Parameters
    ----------
    line : Line
        The line

    Returns
    -------
    Line
        The line
    """
    pieces = [p._replace(loss=OPEN_LOSS) if p.kind == "valve" else p for p in line.pieces]
    return Line(pieces, line.viscosity)


def outlet_head(layout: Layout, levels: Mapping[str, float], run: Run) -> float:
    """Head at a run's outlet: its height, or the level over it [m].

    Parameters
    ----------
    layout : Layout
        The plan compiled
    levels : mapping of str to float
        Level of each vessel over the datum, [m]
    run : Run
        The run

    Returns
    -------
    float
        The head, [m]
    """
    height = layout.plan.elevation(run.end)
    return max(height or 0.0, levels.get(run.target, -1e9))


def head_margins(
    layout: Layout, levels: Mapping[str, float], wanted: Mapping[str, float]
) -> HeadMargin:
    """Head to spare at each outlet of which a flow is wanted.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    levels : mapping
        Level of each vessel, [m]
    wanted : mapping
        Flow wanted by run, [m³/s]

    Returns
    -------
    HeadMargin
        Heads to spare

    Raises
    ------
    NotSolved
        If the flows cannot be led there at all
    """
    solution = solve(pressure_network(layout, dict(levels), dict(wanted)))
    spare = {}
    for id_, flow in wanted.items():
        run = layout.plan.part(id_)
        if run.start not in solution.heads:
            raise NotSolved(f"no open way leads to {id_}")
        lost = float(line_with_open_valve(layout.lines[id_]).loss(np.array([flow]))[0][0])
        spare[id_] = solution.heads[run.start] - outlet_head(layout, levels, run) - lost
    flows = {p.id: solution.flows[p.id] for p in layout.plan.pumps}
    return HeadMargin(spare, flows)


def valve_angle(run: Run, flow: float, spare: float) -> float:
    """Handle angle of a ball valve that takes a head at a flow.

    h = K V²/2g gives K, and the valve's table the angle.

    Parameters
    ----------
    run : Run
        The run the valve stands in
    flow : float
        Flow, [m³/s]
    spare : float
        Head to take besides what the open valve takes, [m]

    Returns
    -------
    float
        Angle from open, [°]
    """
    if spare < _NO_SPARE:
        return 0.0
    velocity_head = (flow / area_of(fouled_bore(run))) ** 2 / (2.0 * GRAVITY)
    return ball_valve_angle(OPEN_LOSS + spare / velocity_head)


def angle_for(layout: Layout, levels: Mapping[str, float], run: Run, flow: float) -> float | None:
    """Handle angle of a ball valve on a run that passes a flow.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    levels : mapping
        Level of each vessel at which it is wanted, [m]
    run : Run
        A run under pressure that ends in a vessel
    flow : float
        Flow wanted, above 0, [m³/s]

    Returns
    -------
    float or None
        Angle from open, [°]; none where even an open valve passes less
    """
    try:
        spare = head_margins(layout, levels, {run.id: flow}).heads[run.id]
    except NotSolved:
        return None
    return valve_angle(run, flow, spare) if spare >= 0.0 else None
