"""What each vessel does: its levels, what passes through it, and how often."""

from collections import defaultdict
from dataclasses import dataclass

from bathys.evaluation.beds import BedResult
from bathys.evaluation.delivery import Delivery
from bathys.evaluation.runs import RunResult
from bathys.network import Balance
from bathys.plan.vessel import Vessel
from bathys.simulation import PumpedBedLoop
from bathys.vessels import storage_of

__all__ = ["VesselLevels", "VesselResult", "vessel_results"]


@dataclass(frozen=True, slots=True)
class VesselLevels:
    """Water levels of a vessel over the datum [m].

    Attributes
    ----------
    low, high : float
        Lowest and highest with the pumps running
    at_rest : float
        With the pumps off and all drained back
    """

    low: float
    high: float
    at_rest: float


@dataclass(frozen=True, slots=True)
class VesselResult:
    """What a vessel does.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    levels : VesselLevels
        Its levels
    volume : float
        Water at the middle of its levels, [m³]
    rest_volume : float
        Water with the pumps off, [m³]
    shell_volume : float
        Up to the rim, nothing in it, [m³]
    inflow : float
        What passes through, pumps counted for the time they run, [m³/s]
    spill : float
        What goes over its rim, [m³/s]
    gain : float
        What it gets more than it gives, where its level was given, [m³/s]
    area : float
        Plan area, [m²]
    returned : float
        What of that a pump in it brings straight back, such as a spray bar, [m³/s]
    """

    vessel: Vessel
    levels: VesselLevels
    volume: float
    rest_volume: float
    shell_volume: float
    inflow: float
    spill: float
    gain: float
    area: float
    returned: float = 0.0

    @property
    def treated(self) -> float:
        """What passes through and comes from elsewhere: from filters, beds, the sump [m³/s]."""
        return max(self.inflow - self.returned, 0.0)

    @property
    def turnover(self) -> float:
        """Times its water passes elsewhere [1/s]; 0 where it holds none."""
        return self.treated / self.volume if self.volume > 0.0 else 0.0


def vessel_results(
    now: Balance,
    mean: Balance,
    runs: dict[str, RunResult],
    beds: tuple[BedResult, ...],
    deliveries: tuple[Delivery, ...],
) -> dict[str, VesselResult]:
    """Results of every vessel.

    Parameters
    ----------
    now : Balance
        With every pump running
    mean : Balance
        With each pump counted for the time it runs
    runs : dict of RunResult
        What each run does
    beds : tuple of BedResult
        The siphon beds
    deliveries : tuple of Delivery
        The ways from pumps to outlets

    Returns
    -------
    dict of VesselResult
        By vessel id
    """
    levels, through = _levels(now, beds), _through(runs)
    back: dict[str, float] = defaultdict(float)
    for way in deliveries:
        if now.plan.part(way.pump).stands_in == way.vessel:
            back[way.vessel] += max(runs[way.run].mean_flow, 0.0)
    found = {}
    for vessel in now.plan.vessels:
        storage = storage_of(now.plan, vessel)
        here = levels[vessel.id]
        middle = 0.5 * (here.low + here.high) - vessel.floor_height
        area = vessel.shape.footprint
        found[vessel.id] = VesselResult(
            vessel,
            here,
            float(storage.volume(middle)),
            float(storage.volume(here.at_rest - vessel.floor_height)),
            vessel.shape.capacity,
            through.get(vessel.id, 0.0),
            mean.spills.get(vessel.id, 0.0),
            mean.gains.get(vessel.id, 0.0),
            area,
            back[vessel.id],
        )
    return found


def _through(runs: dict[str, RunResult]) -> dict[str, float]:
    """What runs bring to each vessel or junction, rests counted [m³/s]."""
    into: dict[str, float] = defaultdict(float)
    for result in runs.values():
        flow = result.mean_flow
        into[result.run.target] += max(flow, 0.0)
        into[result.run.source] += max(-flow, 0.0)
    return into


def _levels(now: Balance, beds: tuple[BedResult, ...]) -> dict[str, VesselLevels]:
    levels = {}
    for vessel in now.plan.vessels:
        level = now.levels[vessel.id]
        low, high = now.swings.get(vessel.id, (level, level))
        for pump in now.plan.pumps:
            band = pump.band
            if pump.stands_in == vessel.id and band and 0.0 < now.shares[pump.id] < 1.0:
                # Between its two heights the water rises and falls.
                low = min(low, vessel.floor_height + band.stops)
                high = max(high, vessel.floor_height + band.starts)
        levels[vessel.id] = VesselLevels(low, high, now.rest_levels[vessel.id])
    for result in beds:
        loop, cycle, floor = result.loop, result.cycle, result.bed.floor_height
        for id_ in result.linked:
            least = now.plan.vessel(id_).floor_height
            levels[id_] = VesselLevels(
                max(floor + cycle.bed_low, least),
                max(floor + cycle.bed_high, least),
                max(floor + loop.built.intake, least),
            )
        if isinstance(loop, PumpedBedLoop):
            rest = loop.tank.floor_height + (loop.tank.water_depth or 0.0)
            levels[loop.tank.id] = VesselLevels(cycle.tank_low, cycle.tank_high, rest)
    return levels
