"""What a plan's pipes ask of a pump, flow by flow, as they age."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.network import Balance, curve_of_pump
from bathys.network.layout import layout_of, pressure_network
from bathys.network.pumped_network import Network, NotSolved
from bathys.network.solving import Solver
from bathys.plan.pumps import Pump
from bathys.sizing.ageing import STATES, aged

__all__ = ["PumpLine", "SystemCurve", "pump_line", "system_curves"]

Floats = NDArray[np.float64]
_POINTS = 40
_HIGHER = 1.15  # the system is told a little beyond what this pump can lift


@dataclass(frozen=True)
class SystemCurve:
    """What the pipes take at each head a pump might make.

    Attributes
    ----------
    fouling : str
        How fouled the walls are, at least
    heads : array
        Heads at the pump over the level it draws from, rising, [m]
    flows : array
        What flows then, [m³/s]
    duty_head, duty_flow : float
        Where this pump settles, [m] and [m³/s]
    """

    fouling: str
    heads: Floats
    flows: Floats
    duty_head: float
    duty_flow: float


@dataclass(frozen=True)
class PumpLine:
    """What a pump makes: heads [m] at flows [m³/s]."""

    flows: Floats
    heads: Floats


def pump_line(pump: Pump) -> PumpLine:
    """A pump's curve as it stands, with its dial and its wear.

    Parameters
    ----------
    pump : Pump
        The pump

    Returns
    -------
    PumpLine
        From no flow to its greatest
    """
    curve = curve_of_pump(pump)
    flows = np.linspace(0.0, curve.max_flow, _POINTS)
    return PumpLine(flows, np.array([curve.head(float(q))[0] for q in flows]))


def system_curves(now: Balance, pump: Pump) -> tuple[SystemCurve, ...]:
    """What the pipes ask of a pump, as they stand and as they will age.

    Parameters
    ----------
    now : Balance
        The plan as it stands
    pump : Pump
        One of its pumps

    Returns
    -------
    tuple of SystemCurve
        The plan as it stands first; a state that changes nothing is left out

    Notes
    -----
    The pump's outlet is given a head instead of a pump, and the network is solved at each; levels
    and valves stay as they are, and so do other pumps. With several outlets the curve bends where
    one of them begins to run.
    """
    found = []
    seen: list[object] = []
    for fouling in STATES:
        plan = aged(now.plan, fouling)
        if plan.runs in seen:
            continue
        seen.append(plan.runs)
        full = pressure_network(layout_of(plan, now.layout.water), now.levels)
        try:
            found.append(_curve(full, pump, fouling, now.levels[pump.stands_in]))
        except NotSolved:
            continue
    return tuple(found)


def _curve(full: Network, pump: Pump, fouling: str, level: float) -> SystemCurve:
    solver = Solver()
    settled = solver.solve(full)
    duty = settled.flows[pump.id]
    curve = curve_of_pump(pump)
    links = tuple(k for k in full.links if k.id != pump.id)
    outlet = pump.leads_from
    duty_head = float(curve.head(duty)[0])
    # The duty is one of the points, so that the drawn line goes through it.
    heads = np.unique(np.append(np.linspace(0.0, _HIGHER * curve.max_head, _POINTS), duty_head))
    flows, first = [], None
    for head in heads:
        network = Network(links, {**full.known_heads, outlet: level + float(head)}, full.demands)
        solution = solver.solve(network, first)
        first = solution.flows
        away = sum(solution.flows[k.id] for k in links if k.start == outlet)
        flows.append(away - sum(solution.flows[k.id] for k in links if k.end == outlet))
    return SystemCurve(fouling, heads, np.array(flows), duty_head, duty)
