"""What a sump must hold: five claims in litres, and the marks to paint on its wall."""

from dataclasses import dataclass, replace

from bathys.network import Balance, NotSolved, balance
from bathys.parts.practice import LEAST_COVER
from bathys.physics.vortex import least_submergence
from bathys.plan.model import Plan
from bathys.plan.vessel import Vessel
from bathys.scenarios.periodic_state import PeriodicState
from bathys.scenarios.power_cut import PowerCutTrial
from bathys.simulation.boundary_conditions import open_area, scheduled_swing
from bathys.vessels import Storage, joined, storage_of

__all__ = ["Claim", "SumpCapacity", "sump_capacity_of"]


@dataclass(frozen=True, slots=True)
class Claim:
    """One thing a sump must have room for.

    Attributes
    ----------
    kind : str
        ``cover``, ``start_up``, ``evaporation``, ``swing``, ``schedule`` (only with transfers),
        ``drain_back`` or ``rain``
    volume : float
        Water, [m³]
    bound : float or None
        The most it could ever be, where that is more than was seen, [m³]
    top : float
        Height over the floor that it reaches, stood on those before it, [m]
    """

    kind: str
    volume: float
    bound: float | None = None
    top: float = 0.0

    @property
    def most(self) -> float:
        """What room must be kept for it [m³]."""
        return max(self.volume, self.bound or 0.0)


@dataclass(frozen=True, slots=True)
class SumpCapacity:
    """What one sump must hold, from its floor up.

    Attributes
    ----------
    vessel : str
        Its id
    twins : tuple of str
        Ids of those that a pipe keeps at its level, and that hold with it
    claims : tuple of Claim
        In the order they stand on each other
    holds : float
        What it holds up to its freeboard, [m³]
    lowest_safe, normal_low, normal_high, power_off, most : float
        Heights to mark over its floor, [m]: least cover, the swing, after a power cut at the
        worst moment, and up to the freeboard
    startup_low : float
        Where it falls to when first switched on, over its floor, [m]
    vortex_cover : float
        Water over the inlet that keeps a vortex away, [m]
    """

    vessel: str
    twins: tuple[str, ...]
    claims: tuple[Claim, ...]
    holds: float
    lowest_safe: float
    normal_low: float
    normal_high: float
    power_off: float
    most: float
    startup_low: float
    vortex_cover: float

    @property
    def least(self) -> float:
        """Least volume up to the freeboard that holds them all [m³]."""
        return sum(c.most for c in self.claims)

    @property
    def governing(self) -> Claim:
        """The greatest claim but for the cover."""
        return max((c for c in self.claims if c.kind != "cover"), key=lambda c: c.most)

    @property
    def spare(self) -> float:
        """What is left over, below 0 if it is too small [m³]."""
        return self.holds - self.least


def _loop(now: Balance, closer: str) -> list[Vessel]:
    return [now.plan.vessel(v) for v, c in now.closing.items() if c == closer]


def _pump_inlet(plan: Plan, vessel: str) -> float:
    return max((p.inlet_height for p in plan.pumps if p.stands_in == vessel), default=0.0)


def sump_capacity_of(
    now: Balance, periodic: PeriodicState, trials: tuple[PowerCutTrial, ...]
) -> tuple[SumpCapacity, ...]:
    """Claims of every vessel that takes up what the others do not hold.

    Parameters
    ----------
    now : Balance
        The steady balance
    periodic : PeriodicState
        The plan's periodic state
    trials : tuple of PowerCutTrial
        Power cuts at the worst moments

    Returns
    -------
    tuple of SumpCapacity
        Most have one
    """
    closers = list(dict.fromkeys(now.closing.values()))
    return tuple(_claims(now, periodic, trials, c) for c in closers)


def _claims(
    now: Balance, periodic: PeriodicState, trials: tuple[PowerCutTrial, ...], closer: str
) -> SumpCapacity:
    plan, vessel = now.plan, now.plan.vessel(closer)
    floor = vessel.floor_height
    twins = _twins(now, closer)
    # What a pipe keeps at its level gives and takes with it, and stops at the lowest rim of all.
    storage: Storage = joined(
        [(storage_of(plan, v), v.floor_height - floor) for v in (vessel, *twins)]
    )

    def held(level: float) -> float:
        return storage.volume_at(level - floor)

    usual = periodic.levels(closer)
    low, high = float(usual.min()), float(usual.max())
    start = float(periodic.through.level(closer).min())
    off = max((v.highest for d in trials for v in d.vessels if v.vessel == closer), default=high)
    safe = _pump_inlet(plan, closer) + LEAST_COVER
    loop = _loop(now, closer)
    evaporation = plan.site.days_away * plan.site.dries * sum(map(open_area, loop))
    catch = sum(v.catches_rain for v in loop)
    drawn = max(held(low) - held(start), 0.0)
    swing = held(high) - held(low)
    claims = (
        Claim("cover", storage.volume_at(safe)),
        Claim("start_up", drawn),
        Claim("evaporation", evaporation),
        Claim("swing", swing, _swings(plan, periodic, [v for v in loop if v not in twins], closer)),
        *(
            [Claim("schedule", moved)]
            if (moved := scheduled_swing(plan, {v.id for v in loop}) + _valve_swing(now, loop))
            else []
        ),
        Claim("drain_back", max(held(off) - held(high), 0.0)),
        Claim("rain", plan.site.storm_depth * catch),
    )
    most = min(v.floor_height - floor + v.shape.height - v.freeboard for v in (vessel, *twins))
    return SumpCapacity(
        closer,
        tuple(v.id for v in twins),
        _stacked(claims, storage),
        storage.volume_at(most),
        safe,
        low - floor,
        high - floor,
        off - floor,
        most,
        start - floor,
        _vortex_cover(now, closer),
    )


def _valve_swing(now: Balance, loop: list[Vessel]) -> float:
    """The most that valves on a clock lead out of a loop, or into it, while they are open [m³]."""
    plan, own, moved = now.plan, {v.id for v in loop}, 0.0
    for run in plan.runs:
        source, target = plan.owner_of(run.start), plan.owner_of(run.end)
        if run.opens_by is None or (source in own) == (target in own):
            continue
        is_open = run.model_copy(update={"valve_clock": None})
        runs = tuple(is_open if r.id == run.id else r for r in plan.runs)
        try:
            flow = balance(plan.model_copy(update={"runs": runs}), now.layout.water).flows[run.id]
        except NotSolved:
            continue
        moved += abs(flow) * run.opens_by.runs
    return moved


def _twins(now: Balance, closer: str) -> list[Vessel]:
    """Vessels that a pipe keeps at the level of the one that closes their loop."""
    ids = [v for v in now.swings if v != closer and now.closing.get(v) == closer]
    return [now.plan.vessel(v) for v in ids]


def _stacked(claims: tuple[Claim, ...], storage: Storage) -> tuple[Claim, ...]:
    """Each claim with the height it reaches; above the rim the shell is taken to go on."""
    found, held = [], 0.0
    for claim in claims:
        held += claim.most
        found.append(replace(claim, top=storage.level_at(held)))
    return tuple(found)


def _swings(plan: Plan, periodic: PeriodicState, loop: list[Vessel], closer: str) -> float:
    """All that the other vessels ever take and give, were they all full at once and then all
    empty at once [m³]."""
    total = 0.0
    for vessel in loop:
        if vessel.id != closer:
            storage, usual = storage_of(plan, vessel), periodic.levels(vessel.id)
            high, low = float(usual.max()), float(usual.min())
            total += storage.volume_at(high - vessel.floor_height)
            total -= storage.volume_at(low - vessel.floor_height)
    return total


def _vortex_cover(now: Balance, closer: str) -> float:
    covers = [LEAST_COVER]
    for pump in now.plan.pumps:
        riser = now.plan.run_of(pump)
        if pump.stands_in == closer and riser is not None:
            flow = max(now.pump_flows.get(pump.id, 0.0), 0.0)
            covers.append(least_submergence(flow, riser.bore.inside))
    return max(covers)
