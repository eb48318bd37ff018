"""A plan through time: until it repeats itself, in power cuts, and with each part failing."""

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

from bathys.evaluation.result import Evaluation
from bathys.network import stops_backflow
from bathys.plan.model import Plan
from bathys.plan.places import part_id
from bathys.plan.vessel import Vessel
from bathys.scenarios.failures import (
    Failure,
    FailureOutcome,
    failures_of,
    try_failure,
    without_alike,
)
from bathys.scenarios.periodic_state import PeriodicState, find_periodic_state
from bathys.scenarios.power_cut import PowerCutTrial, try_power_cut
from bathys.scenarios.sump_capacity import SumpCapacity, sump_capacity_of
from bathys.simulation import (
    DRY_AIR,
    Abandoned,
    Doings,
    NotSimulated,
    SimulationResult,
    Weather,
    simulate,
)
from bathys.vessels import storage_of

__all__ = ["Promise", "ResilienceRun", "run_resilience"]

_MOST_MISHAPS = 60
_LEAST_SPILL = 1e-4  # less water over a rim is no harm [m³]
_LEAST_SCHEDULE, _LONGEST_SCHEDULE = 4.0 * 86400.0, 28.0 * 86400.0
_SAMPLES = 4000
_BESIDE = min(os.cpu_count() or 1, 4)  # failures followed at once


def _always() -> bool:
    return True


@dataclass(frozen=True, slots=True)
class Promise:
    """What a fish tank keeps whatever happens, short of a broken wall.

    Attributes
    ----------
    vessel : str
        Its id
    height : float
        Lowest level it can be drawn to: the lowest of its crests, mouths and pump inlets, over
        its floor, [m]
    volume, share : float
        Water under that, [m³], and its share of the least it usually holds, [-]
    seen : float
        Least share it was left with in any power cut or failure that was tried, [-]
    """

    vessel: str
    height: float
    volume: float
    share: float
    seen: float


@dataclass(frozen=True)
class ResilienceRun:
    """What a plan does through time, and when things go wrong.

    Attributes
    ----------
    evaluation : Evaluation
        Its steady numbers
    periodic : PeriodicState
        From rest until it repeats itself
    trials : tuple of PowerCutTrial
        Power cuts at the worst moments
    sumps : tuple of SumpCapacity
        What each sump must hold
    outcomes : tuple of FailureOutcome
        failures that do harm, the quickest first
    harmless : int
        How many were tried that do none
    alike : int
        How many were not tried, since others of parts alike were
    promises : tuple of Promise
        Of every fish tank
    broken : tuple of (str, str)
        What already goes wrong before anything fails: ``spills``, ``air`` or ``starved``, and
        the vessel or pump; no failure is tried then
    scheduled : SimulationResult or None
        The plan followed for twice its longest schedule, where settling down was shorter
    """

    evaluation: Evaluation
    periodic: PeriodicState
    trials: tuple[PowerCutTrial, ...]
    sumps: tuple[SumpCapacity, ...]
    outcomes: tuple[FailureOutcome, ...]
    harmless: int
    alike: int
    promises: tuple[Promise, ...]
    broken: tuple[tuple[str, str], ...] = ()
    scheduled: SimulationResult | None = None


def _broken(periodic: PeriodicState) -> tuple[tuple[str, str], ...]:
    """What goes wrong with everything as planned."""
    plan, found = periodic.through.plan, periodic.through
    rows = [("spills", v) for v, lost in found.spills.items() if lost > _LEAST_SPILL]
    rows += [("air", p.id) for p in plan.pumps if _draws_air(periodic, p.id)]
    for vessel in plan.vessels:
        touching = [r.id for r in plan.runs if vessel.id in (r.target, plan.owner_of(r.start))]
        brought = sum(abs(found.carried.get(r, 0.0)) for r in touching)
        if vessel.use.keeps_fish and brought <= _LEAST_SPILL:
            rows.append(("starved", vessel.id))
    return tuple(rows)


def _draws_air(periodic: PeriodicState, pump: str) -> bool:
    """Whether a pump still draws air once a plan repeats itself, or does so most of its time."""
    found = periodic.through
    if found.dry[pump] <= 1.0:
        return False
    again = any(t >= periodic.since for t in found.times_of("air", pump))
    return again or found.dry[pump] > 0.5 * found.running[pump]


def _follow_schedules(
    plan: Plan, periodic: PeriodicState, is_wanted: Callable[[float], bool]
) -> SimulationResult | None:
    """The undisturbed plan for twice its longest schedule, at most 28 days. With evaporation where
    more is brought than taken, without where it is not: as it does most harm."""
    turns = [m.every for m in plan.moves]
    turns += [t.visit.every for t in plan.top_ups if t.visit is not None]
    turns += [p.clock.turn for p in plan.pumps if p.clock is not None]
    turns += [r.opens_by.turn for r in plan.runs if r.opens_by is not None]
    lasts = min(2.0 * max(turns, default=0.0), _LONGEST_SCHEDULE)
    if lasts <= periodic.through.times[-1] and not plan.moves:
        return None
    lasts = max(lasts, _LEAST_SCHEDULE)
    net = sum(
        t.volume / t.every * (float(t.source is None) - float(t.target is None)) for t in plan.moves
    )
    weather = Weather(plan.site.dries / 86400.0) if net > 0.0 else DRY_AIR
    every = lasts / _SAMPLES
    return simulate(plan, lasts / 3600.0, Doings(weather=weather), every, is_wanted=is_wanted)


def run_resilience(
    evaluation: Evaluation, with_failures: bool = True, is_wanted: Callable[[], bool] = _always
) -> ResilienceRun:
    """Follow a plan through time and try what may go wrong.

    Parameters
    ----------
    evaluation : Evaluation
        Its steady numbers
    with_failures : bool
        Whether the failure of every part is tried
    is_wanted : callable
        Asked from time to time whether to go on

    Returns
    -------
    ResilienceRun
        What happens

    Raises
    ------
    NotSimulated
        If the layout is not followed
    NotSolved
        If a balance does not settle
    Abandoned
        If it is not wanted any longer
    """
    plan = evaluation.plan
    if not any(plan.run_of(p) for p in plan.pumps):
        raise NotSimulated("No pump of it moves any water yet.")

    def wanted() -> None:
        if not is_wanted():
            raise Abandoned

    def goes_on(time: float) -> bool:
        return is_wanted()

    periodic = find_periodic_state(plan, is_wanted=goes_on)
    wanted()
    closers = set(evaluation.balance.closing.values())
    trials = try_power_cut(plan, periodic, closers)
    sumps = sump_capacity_of(evaluation.balance, periodic, trials)

    def tried_out(failure: Failure) -> FailureOutcome | None:
        wanted()
        return try_failure(plan, periodic, failure, goes_on)

    broken = _broken(periodic)
    scheduled = _follow_schedules(plan, periodic, goes_on)
    wanted()
    tries = with_failures and not broken
    failures, alike = without_alike(plan, failures_of(plan) if tries else ())
    # Each goes its own way from the same moment; the compiled steps let others run beside them.
    with ThreadPoolExecutor(_BESIDE) as pool:
        tried = list(pool.map(tried_out, failures[:_MOST_MISHAPS]))
    harmful = [w for w in tried if w is not None and not w.is_harmless]
    harmful.sort(key=lambda w: (not w.half_in, w.hurts_after or 0.0))
    harmless = sum(w is not None and w.is_harmless for w in tried)
    promises = tuple(
        _promise(evaluation, periodic, trials, tuple(harmful), v)
        for v in plan.vessels
        if v.use.keeps_fish
    )
    return ResilienceRun(
        evaluation,
        periodic,
        trials,
        sumps,
        tuple(harmful),
        harmless,
        alike,
        promises,
        broken,
        scheduled,
    )


def _promise(
    evaluation: Evaluation,
    periodic: PeriodicState,
    trials: tuple[PowerCutTrial, ...],
    harmful: tuple[FailureOutcome, ...],
    vessel: Vessel,
) -> Promise:
    plan = evaluation.plan
    storage, floor = storage_of(plan, vessel), vessel.floor_height
    usual = storage.volume_at(float(periodic.levels(vessel.id).min()) - floor)
    marks = [float(periodic.levels(vessel.id).min()) - floor, *_ways_out(plan, vessel)]
    height = max(min(marks), 0.0)
    volume = storage.volume_at(height)
    cuts = [r.share_left for d in trials for r in d.vessels if r.vessel == vessel.id]
    seen = min([1.0, *cuts, *(w.tank_left for w in harmful)])
    return Promise(vessel.id, height, volume, volume / max(usual, 1e-9), seen)


def _ways_out(plan: Plan, vessel: Vessel) -> list[float]:
    """Heights over the floor down to which each way out can draw a vessel [m]."""
    found = [p.inlet_height for p in plan.pumps if p.stands_in == vessel.id]
    found += [w.draws_to for w in plan.ways_out if w.stands_in == vessel.id]
    for run in plan.runs:
        ends = [run.start] if stops_backflow(run) else [run.start, run.end]
        for place in ends:
            port = plan.port(place)
            if port is not None and part_id(place) == vessel.id:
                found.append(port.height)
    return found
