"""What a pump does at its place: flow, head, and what it costs."""

from dataclasses import dataclass
from typing import Any

from bathys.evaluation.delivery import Delivery
from bathys.evaluation.runs import RunResult
from bathys.network import Balance, curve_of_pump
from bathys.network.compiled import compiled
from bathys.physics.pump_curve import hydraulic_power
from bathys.plan.pumps import Pump
from bathys.plan.tariff import mean_price, spells_of

__all__ = ["HOURS_A_YEAR", "Duty", "duties_of", "power_drawn"]

HOURS_A_YEAR = 8760.0
_LEAST_SWING = 0.005  # a level that moves less moves no flow worth telling [m]


@dataclass(frozen=True, slots=True)
class Duty:
    """A pump's duty with its vessel at the middle of its levels.

    Attributes
    ----------
    pump : Pump
        The pump
    flow, flow_low, flow_high : float
        Flow while it runs, and with its vessel at its lowest and highest, [m³/s]
    label_flow : float
        Flow at no lift, new and at full speed, [m³/s]
    shut_off_head : float
        Lift at no flow as it stands, [m]
    head : float
        Head it makes, [m]
    power : float
        Watts drawn while it runs, [W]
    useful_power : float
        Watts that leave in the water, [W]
    valve_power : float
        Watts drawn for the head that valves burn, [W]
    share : float
        Share of the time it runs, [-]
    mean_flow : float
        Flow over the time it runs and rests, [m³/s]
    energy_year : float
        Energy a year, [kWh]
    cost_year : float
        Cost a year, [money]
    deliveries : tuple of Delivery
        The ways to its outlets
    """

    pump: Pump
    flow: float
    flow_low: float
    flow_high: float
    label_flow: float
    shut_off_head: float
    head: float
    power: float
    useful_power: float
    valve_power: float
    share: float
    mean_flow: float
    energy_year: float
    cost_year: float
    deliveries: tuple[Delivery, ...]

    @property
    def label_share(self) -> float:
        """Flow over the label's flow [-]."""
        return self.flow / self.label_flow

    @property
    def efficiency(self) -> float:
        """Wire-to-water efficiency [-]."""
        return self.useful_power / self.power


def power_drawn(pump: Pump, flow: float) -> float:
    """Watts a pump draws at a flow: its points' if they have them, else its label's; both with
    the cube of the speed that its dial sets (affinity laws). A dial on its intake saves none.

    Parameters
    ----------
    pump : Pump
        The pump
    flow : float
        Flow, [m³/s]

    Returns
    -------
    float
        Power, [W]
    """
    measured = pump.curve.power_at(flow / pump.speed)
    return (pump.power if measured is None else measured) * pump.speed**3


def duties_of(
    now: Balance, runs: dict[str, RunResult], deliveries: tuple[Delivery, ...]
) -> dict[str, Duty]:
    """Duties of every pump.

    Parameters
    ----------
    now : Balance
        With every pump running
    runs : dict of RunResult
        What each run does
    deliveries : tuple of Delivery
        The ways to all outlets

    Returns
    -------
    dict of Duty
        By pump id
    """
    ends = _flows_at_ends(now)
    return {p.id: _duty(now, p, runs, deliveries, ends) for p in now.plan.pumps}


def _flows_at_ends(now: Balance) -> tuple[dict[str, float], dict[str, float]]:
    """Pumped flows with the vessels that take up the siphons' swing at their lowest and highest."""
    found, base = [], compiled(now.plan, now.layout.water)
    for end in (0, 1):
        levels = {v: z[end] for v, z in now.swings.items()}
        moves = any(abs(z - now.levels[v]) > _LEAST_SWING for v, z in levels.items())
        if not moves:
            found.append(now.pump_flows)
            continue
        network = base.pressure.at({**now.levels, **levels})
        found.append(base.solver.solve(network, {**now.flows, **now.pump_flows}).flows)
    return found[0], found[1]


def _duty(
    now: Balance,
    pump: Pump,
    runs: dict[str, RunResult],
    deliveries: tuple[Delivery, ...],
    ends: tuple[dict[str, float], dict[str, float]],
) -> Duty:
    site = now.plan.site
    curve = curve_of_pump(pump)
    flow = now.pump_flows[pump.id]
    head = curve.head(flow)[0]
    own = tuple(d for d in deliveries if d.pump == pump.id)
    power = power_drawn(pump, flow)
    useful = hydraulic_power(max(flow, 0.0), max(head, 0.0), now.layout.water.density)
    in_valves: Any = sum(
        abs(runs[r].flow) * abs(runs[r].valve_loss) for r in {r for d in own for r in d.path}
    )
    moving = flow * head
    share = _time_share(now, pump)
    a_year = share if pump.share_a_year is None else pump.share_a_year
    energy = power * a_year * HOURS_A_YEAR / 1000.0
    unscaled = curve_of_pump(pump.model_copy(update={"dial": 1.0, "wear": 1.0}))
    return Duty(
        pump,
        flow,
        ends[0][pump.id],
        ends[1][pump.id],
        unscaled.max_flow,
        curve.max_head,
        head,
        power,
        useful,
        power * min(in_valves / moving, 1.0) if moving > 0.0 else 0.0,
        share,
        flow * share,
        energy,
        energy * mean_price(site, spells_of(pump.clock, share)),
        own,
    )


def _time_share(now: Balance, pump: Pump) -> float:
    return pump.clock.share if pump.clock is not None else now.shares[pump.id]
