"""One pump lifting from a vessel to a bed whose siphon drains straight back to that vessel.

Water only changes places, so the bed's level alone fixes the vessel's level and so the pump's
flow: the whole cycle is one equation in the bed's level.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.network import (
    Line,
    Network,
    NetworkLink,
    curve_of_pump,
    holds_back,
    solve,
    stops_backflow,
)
from bathys.physics.pump_curve import PumpCurve
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.plan.vessel import Vessel
from bathys.simulation.siphon import SiphonModel
from bathys.vessels import Storage, storage_of

__all__ = ["PumpedBedLoop", "pump_flow"]

Floats = NDArray[np.float64]
_TABLE_POINTS = 3


def pump_flow(
    curve: PumpCurve, line: Line, level: float, outlet: float, first: float | None = None
) -> float:
    """Flow of one pump through one run [m³/s].

    Parameters
    ----------
    curve : PumpCurve
        The pump's curve
    line : Line
        What its run loses, exit included
    level : float
        Water level over the datum where it stands, [m]
    outlet : float
        Elevation of the outlet, or of the level over it if that is higher, [m]
    first : float, optional
        Flow to start from, [m³/s]

    Returns
    -------
    float
        Flow, 0 if the lift is beyond the pump, [m³/s]

    Raises
    ------
    NotSolved
        If the balance does not settle
    """
    network = Network(
        (
            NetworkLink("pump", "source", "riser foot", pump=curve),
            NetworkLink("run", "riser foot", "outlet", line=line, one_way=True),
        ),
        {"source": level, "outlet": outlet},
    )
    start = {"pump": first, "run": first} if first else None
    flow = solve(network, start).flows["run"]
    # A pump that runs against more than its shut-off head would be pushed backwards by a
    # drowned outlet; as with a free one, the figure is no delivery.
    return max(flow, 0.0)


def _carried_on(levels: list[float], flows: list[float]) -> float | None:
    """A first guess of the next flow: the last two carried on in a straight line."""
    if len(flows) < 2:
        return flows[-1] if flows else None
    one, two, now = levels[len(flows) - 2 : len(flows) + 1]
    return max(flows[-1] + (flows[-1] - flows[-2]) * (now - two) / (two - one), 0.0)


@dataclass(frozen=True)
class _Table:
    levels: Floats
    flows: Floats


class PumpedBedLoop:
    """The vessels, the pump and the siphon of one such loop.

    Parameters
    ----------
    plan : Plan
        The plan
    pump, riser : Pump, Run
        The pump and the run from it
    bed, tank : Vessel
        Where the run ends, and where the pump stands
    built : SiphonModel
        The bed's siphon
    line : Line
        What the run loses, exit included
    """

    def __init__(
        self,
        plan: Plan,
        pump: Pump,
        riser: Run,
        bed: Vessel,
        tank: Vessel,
        built: SiphonModel,
        line: Line,
    ) -> None:
        self.pump, self.riser, self.bed, self.tank, self.built = pump, riser, bed, tank, built
        self.curve = curve_of_pump(pump)
        self.line = line
        self.bed_storage: Storage = storage_of(plan, bed)
        self.tank_storage: Storage = storage_of(plan, tank)
        outlet = plan.elevation(riser.end)
        assert outlet is not None  # noqa: S101 - a plan's runs end at vessel ports
        self.outlet = outlet
        self.holds_back = holds_back(riser)
        self.stops_backflow = stops_backflow(riser)
        self.rest_volume = float(self.tank_storage.volume(tank.water_depth or 0.0))
        """Water in the tank with the pump off and the bed drained [m³]."""
        self.drained_volume = float(self.bed_storage.volume(built.intake))
        """Water the bed keeps below its intake [m³]."""
        self.riser_returns = 0.0 if self.holds_back else self.line.volume
        self.inlet = tank.floor_height + pump.inlet_height
        self._table = self._tabulate()

    @property
    def total_volume(self) -> float:
        """All water that moves in the loop [m³]."""
        return self.rest_volume + self.drained_volume

    def tank_level(self, bed_level: Floats | float) -> Floats:
        """Tank level over the datum [m], pump running, at a bed level over its floor [m]."""
        away = self.bed_storage.volume(bed_level) + self.riser_returns
        return self.tank.floor_height + self.tank_storage.level(self.total_volume - away)

    def flow_at(self, tank_level: float, bed_level: float, first: float | None = None) -> float:
        """Pumped flow [m³/s] at a tank level over the datum and a bed level over its floor [m]."""
        bed_surface = self.bed.floor_height + bed_level
        foot = max(self.outlet, bed_surface)
        return pump_flow(self.curve, self.line, tank_level, foot, first)

    def _tabulate(self) -> _Table:
        """Flow at a few bed levels; between them it is as good as straight."""
        top = self.built.priming_level
        levels = set(np.linspace(self.built.intake, top, _TABLE_POINTS))
        levels |= set(np.linspace(top, max(self.bed_storage.rim, top + 0.01), 2))
        port = self.outlet - self.bed.floor_height
        if self.built.intake < port < self.bed_storage.rim:
            levels.add(port)
        if self.bed.media is not None and self.built.intake < self.bed.media.top < top:
            levels.add(self.bed.media.top)
        ordered = np.array(sorted(levels))
        flows: list[float] = []
        for level in ordered:
            guess = _carried_on(list(ordered), flows)
            flows.append(self.flow_at(float(self.tank_level(level)), float(level), guess))
        return _Table(ordered, np.array(flows))

    def inflow(self, bed_level: Floats | float) -> Floats:
        """Flow into the bed [m³/s] at bed levels over its floor [m]."""
        return np.asarray(np.interp(bed_level, self._table.levels, self._table.flows))
