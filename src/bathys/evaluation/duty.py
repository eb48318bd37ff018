"""What a pump does at its place: flow, head, where the head goes, and what it costs."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from bathys.network import PieceKind
from bathys.network.runs import fouled_bore
from bathys.physics import area_of
from bathys.physics.friction import LAMINAR_LIMIT, TURBULENT_LIMIT
from bathys.physics.pump_curve import hydraulic_power
from bathys.physics.water import Water
from bathys.plan.model import Site
from bathys.simulation import Cycle, PumpedBedLoop

__all__ = ["HOURS_A_YEAR", "BudgetRow", "Duty", "duty_of"]

HOURS_A_YEAR = 8760.0

Regime = Literal["still", "laminar", "between", "turbulent"]


@dataclass(frozen=True, slots=True)
class BudgetRow:
    """A share of the pump's head.

    Attributes
    ----------
    kind : str
        ``lift`` or the kind of a piece of the line
    label : str
        What takes it
    head : float
        Head taken, [m]
    """

    kind: PieceKind | Literal["lift"]
    label: str
    head: float


@dataclass(frozen=True, slots=True)
class Duty:
    """A pump's duty at the mean of its tank's levels.

    Attributes
    ----------
    flow, flow_low, flow_high : float
        Flow delivered, and at the tank's lowest and highest level, [m³/s]
    label_flow : float
        Flow at no lift, [m³/s]
    shut_off_head : float
        Lift at no flow, [m]
    head : float
        Head the pump makes, [m]
    lift : float
        Height of the outlet over the tank's level, [m]
    budget : tuple of BudgetRow
        Where the head goes
    velocity : float
        In the riser, [m/s]
    reynolds : float
        In the riser, [-]
    regime : str
        What the Reynolds number means
    power : float
        Watts drawn, [W]
    useful_power : float
        Watts that leave in the water, [W]
    valve_power : float
        Watts drawn for the head that the valve burns, [W]
    energy_year : float
        Energy a year, [kWh]
    cost_year : float
        Cost a year, [money]
    """

    flow: float
    flow_low: float
    flow_high: float
    label_flow: float
    shut_off_head: float
    head: float
    lift: float
    budget: tuple[BudgetRow, ...]
    velocity: float
    reynolds: float
    regime: Regime
    power: float
    useful_power: float
    valve_power: float
    energy_year: float
    cost_year: float

    @property
    def label_share(self) -> float:
        """Flow over the label's flow [-]."""
        return self.flow / self.label_flow

    @property
    def efficiency(self) -> float:
        """Wire-to-water efficiency [-]."""
        return self.useful_power / self.power


def _regime(reynolds: float) -> Regime:
    if reynolds < 1.0:
        return "still"
    if reynolds <= LAMINAR_LIMIT:
        return "laminar"
    return "turbulent" if reynolds >= TURBULENT_LIMIT else "between"


def duty_of(loop: PumpedBedLoop, cycle: Cycle, water: Water, site: Site) -> Duty:
    """Duty of a loop's pump.

    Parameters
    ----------
    loop : PumpedBedLoop
        The loop
    cycle : Cycle
        What its bed and tank do
    water : Water
        The water
    site : Site
        Tariff

    Returns
    -------
    Duty
        The duty
    """
    curve = loop.curve
    middle = 0.5 * (cycle.tank_low + cycle.tank_high)
    flow = loop.flow_at(middle, cycle.bed_high, first=cycle.mean_inflow)
    ends = loop.inflow(np.array([cycle.bed_high, cycle.bed_low]))
    lift = max(loop.outlet, loop.bed.floor_height + cycle.bed_high) - middle
    rows = [BudgetRow("lift", "lift", lift)]
    rows += [BudgetRow(p.kind, p.label, h) for p, h in loop.line.losses_by_piece(flow)]
    head = curve.head(flow)[0]
    bore = fouled_bore(loop.riser)
    velocity = flow / area_of(bore)
    reynolds = velocity * bore / water.kinematic_viscosity
    useful = hydraulic_power(flow, head, water.density)
    in_valve = sum(row.head for row in rows if row.kind == "valve")
    energy = loop.pump.power * HOURS_A_YEAR / 1000.0
    return Duty(
        flow, float(ends[0]), float(ends[1]),
        curve.max_flow, curve.max_head, head, lift, tuple(rows), velocity, reynolds,
        _regime(reynolds), loop.pump.power, useful,
        loop.pump.power * in_valve / head if head > 0.0 else 0.0,
        energy, energy * site.tariff,
    )  # fmt: skip
