"""What if something fails: each fault tried on the plan, and how long until it hurts."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from bathys.edits.adding import free_id
from bathys.edits.editing import Edit, EditRefused, apply_edits
from bathys.edits.valves import SHUT, throttle
from bathys.network.layout import Layout, layout_of
from bathys.network.runs import holds_back
from bathys.parts.practice import TANK_KEEPS
from bathys.physics.water import water_at
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.scenarios.periodic_state import PeriodicState
from bathys.simulation.doings import Doings, always
from bathys.simulation.errors import NotSimulated
from bathys.simulation.result import PowerCut, SimulationResult
from bathys.simulation.valve_clocks import simulate
from bathys.vessels import storage_of

__all__ = [
    "Failure",
    "FailureKind",
    "FailureOutcome",
    "as_failed",
    "failures_of",
    "try_failure",
    "without_alike",
]

FailureKind = Literal[
    "blocked",
    "shut",
    "dead",
    "never_starts",
    "never_breaks",
    "stuck_open",
    "burst",
    "slips_out",
    "half_blocked",
    "stuck_float",
]

_HOURS = 12.0
_EVERY = 30.0
_STARVED = 0.1  # of its usual flow


@dataclass(frozen=True, slots=True)
class Failure:
    """Something that fails.

    Attributes
    ----------
    kind : str
        ``blocked`` drain, valve ``shut`` by mistake, ``dead`` pump, siphon that ``never_starts``
        or ``never_breaks``, check valve ``stuck_open`` in a power cut, pumped line ``burst`` at
        the pump, end of a pumped line that ``slips_out`` of its vessel, filter or end of a run
        ``half_blocked``, float valve ``stuck_float``
        open
    place : str
        Id of the part
    """

    kind: FailureKind
    place: str


@dataclass(frozen=True, slots=True)
class FailureOutcome:
    """What a failure leads to within half a day.

    Attributes
    ----------
    failure : Failure
        What failed
    spills_in, spills_after, spilled
        Vessel that runs over first (empty for none), when, [s], and all water lost over rims or
        out of a burst, [m³]
    half_in, half_after
        Fish tank that is first down to half its water (empty for none), and when, [s]
    tank_left : float
        Least share left of any fish tank's water, [-]
    air_in, air_after
        Pump that draws air first (empty for none), and when, [s]
    starved : tuple of str
        Fish tanks that no longer get fresh water
    """

    failure: Failure
    spills_in: str = ""
    spills_after: float | None = None
    spilled: float = 0.0
    half_in: str = ""
    half_after: float | None = None
    tank_left: float = 1.0
    air_in: str = ""
    air_after: float | None = None
    starved: tuple[str, ...] = ()

    @property
    def is_harmless(self) -> bool:
        """Whether nothing happens that anybody would mind."""
        return not (self.spills_in or self.half_in or self.air_in or self.starved)

    @property
    def hurts_after(self) -> float | None:
        """When it first hurts [s]."""
        times = [t for t in (self.spills_after, self.half_after, self.air_after) if t is not None]
        return min(times, default=0.0 if self.starved else None)


def failures_of(plan: Plan) -> Iterator[Failure]:
    """Everything of a plan that may fail.

    Parameters
    ----------
    plan : Plan
        The plan

    Yields
    ------
    Failure
        In the order of its parts
    """
    layout = layout_of(plan, water_at(plan.site.water_temperature))
    for run in plan.runs:
        yield from _failures_of_run(layout, run)
    for pump in plan.pumps:
        if plan.run_of(pump) is not None:
            yield Failure("burst", pump.id)
            if len(plan.pumps) > 1:
                yield Failure("dead", pump.id)
    for siphon in plan.siphons:
        if plan.run_of(siphon) is not None:
            yield Failure("never_starts", siphon.id)
            yield Failure("never_breaks", siphon.id)
    for top_up in plan.float_valves:
        yield Failure("stuck_float", top_up.id)


def _failures_of_run(layout: Layout, run: Run) -> Iterator[Failure]:
    is_open = not layout.lines[run.id].shut
    if run.id in layout.pressure:
        if run.valve is not None and is_open:
            yield Failure("shut", run.id)
        if holds_back(run):
            yield Failure("stuck_open", run.id)
        if layout.plan.port(run.end) is not None and is_open:
            yield Failure("slips_out", run.id)
    elif is_open:
        yield Failure("blocked", run.id)
    if is_open and _half_blocked(run):
        yield Failure("half_blocked", run.id)


_FEW = 3  # of so many parts alike each is tried


def _likeness(plan: Plan, failure: Failure) -> str:
    """The same for parts built and set alike: a row of equal beds fails alike."""
    part = plan.part(failure.place)
    vessels = (
        [plan.owner_of(part.start), plan.owner_of(part.end)]
        if isinstance(part, Run)
        else [plan.owner_of(part.id)]
    )
    shells = [
        (v.job, v.shape, v.floor_height, v.freeboard, v.media)
        for v in (plan.vessel(id_) for id_ in vessels if id_ is not None)
    ]
    built = getattr(part, "bore", None) or getattr(part, "standpipe_bore", None)
    return f"{failure.kind} {type(part).__name__} {built} {shells}"


def without_alike(plan: Plan, failures: Iterable[Failure]) -> tuple[tuple[Failure, ...], int]:
    """failures to try, of many parts alike only the first and the last.

    Parameters
    ----------
    plan : Plan
        The plan
    failures : iterable of Failure
        All of them

    Returns
    -------
    (tuple of Failure, int)
        Those to try, in their order, and how many are left to their likeness
    """
    groups: dict[str, list[Failure]] = {}
    for failure in failures:
        groups.setdefault(_likeness(plan, failure), []).append(failure)
    kept = {
        m
        for group in groups.values()
        for m in (group if len(group) <= _FEW else (group[0], group[-1]))
    }
    every = [m for group in groups.values() for m in group]
    return tuple(m for m in every if m in kept), len(every) - len(kept)


def as_failed(plan: Plan, failure: Failure) -> tuple[Plan, Doings]:
    """A plan with a failure in it.

    Parameters
    ----------
    plan : Plan
        The plan
    failure : Failure
        What fails

    Returns
    -------
    (Plan, Doings)
        The plan so changed, and what else is done to it while it is followed

    Raises
    ------
    EditRefused
        If the plan cannot be so changed
    """
    kind, place = failure.kind, failure.place
    if kind == "burst":
        pump = plan.part(place)
        floor = plan.vessel(pump.stands_in).floor_height
        return _slipped(plan, plan.run_of(pump), floor + pump.inlet_height), Doings()
    if kind in ("blocked", "shut"):
        edit = Edit(f"runs.{place}.valve", throttle(SHUT))
        return apply_edits(plan, [edit]), Doings()
    if kind == "stuck_open":
        run = plan.part(place)
        left = [f.model_dump(mode="json") for f in run.fittings if not f.holds_back]
        return apply_edits(plan, [Edit(f"runs.{place}.fittings", left)]), Doings()
    if kind == "half_blocked":
        return apply_edits(plan, _half_blocked(plan.part(place))), Doings()
    if kind == "stuck_float":
        rim = plan.vessel(plan.part(place).stands_in).shape.height
        return apply_edits(plan, [Edit(f"top_ups.{place}.level", rim)]), Doings()
    if kind == "slips_out":
        run = plan.part(place)
        return _slipped(plan, run, plan.elevation(run.end)), Doings()
    if kind == "dead":
        return plan, Doings(dead=frozenset({place}))
    if kind == "never_starts":
        return plan, Doings(never_starts=frozenset({place}))
    return plan, Doings(never_breaks=frozenset({place}))


def _half_blocked(run: Run) -> list[Edit]:
    """Half of a filter's face shut, and half of the holes at a run's end; nothing for a run that
    has neither."""
    edits = []
    if run.filter is not None:
        edits.append(Edit(f"runs.{run.id}.filter", run.filter.half_blocked()))
    if run.ends_in is not None and run.ends_in.small_holes > 1:
        edits.append(Edit(f"runs.{run.id}.ends_in.holes", run.ends_in.small_holes // 2))
    return edits


def _slipped(plan: Plan, run: Run | None, height: float | None) -> Plan:
    """The end of a run on the ground, so high: what it brings is lost."""
    if run is None:
        raise EditRefused("No run leads from it.")
    floor_side = {
        "id": free_id(plan, "J"),
        "name": "Ground",
        "kind": "outfall",
        "height": height,
    }
    return apply_edits(
        plan,
        [
            Edit("junctions.+", floor_side),
            Edit(f"runs.{run.id}.to", floor_side["id"]),
            Edit(f"runs.{run.id}.ends_in", None),
        ],
    )


def try_failure(
    plan: Plan,
    periodic: PeriodicState,
    failure: Failure,
    is_wanted: Callable[[float], bool] = always,
) -> FailureOutcome | None:
    """Let something fail once a plan repeats itself, and simulate half a day.

    Parameters
    ----------
    plan : Plan
        The plan
    periodic : PeriodicState
        Its periodic state
    failure : Failure
        What fails
    is_wanted : callable
        Asked now and then whether to go on

    Returns
    -------
    FailureOutcome or None
        What it leads to; none if the plan so changed is not followed
    """
    if failure.kind == "burst":
        return _burst(plan, periodic, failure)
    end = periodic.through.end
    try:
        changed, doings = as_failed(plan, failure)
        if failure.kind == "stuck_open":
            doings = Doings(PowerCut(end.time, _HOURS * 3600.0 + 60.0))
        found = simulate(changed, _HOURS, doings, _EVERY, end, is_wanted)
    except (EditRefused, NotSimulated, ArithmeticError, KeyError):
        return None
    outcome = _told(periodic, failure, found)
    if failure.kind == "slips_out":
        # What leaves by the slipped end is lost as surely as what goes over a rim.
        return replace(outcome, spilled=outcome.spilled + found.carried.get(failure.place, 0.0))
    return outcome


def _told(periodic: PeriodicState, failure: Failure, found: SimulationResult) -> FailureOutcome:
    plan, begun = found.plan, found.times[0]
    over = next((e for e in found.events if e.kind == "spills"), None)
    air = next((e for e in found.events if e.kind == "air"), None)
    half, half_time, left = "", None, 1.0
    for vessel in plan.vessels:
        if not vessel.use.keeps_fish:
            continue
        storage = storage_of(plan, vessel)
        usual = storage.volume_at(float(periodic.levels(vessel.id).min()) - vessel.floor_height)
        volumes = storage.volume(found.level(vessel.id) - vessel.floor_height)
        left = min(left, float(volumes.min()) / max(usual, 1e-9))
        low = np.flatnonzero(volumes < TANK_KEEPS * usual)
        if len(low) and (half_time is None or found.times[low[0]] - begun < half_time):
            half, half_time = vessel.id, float(found.times[low[0]] - begun)
    return FailureOutcome(
        failure,
        over.place if over else "",
        over.time - begun if over else None,
        found.spilled,
        half,
        half_time,
        left,
        air.place if air else "",
        air.time - begun if air else None,
        () if failure.kind == "stuck_open" else _starved(periodic, found),
    )


def _starved(periodic: PeriodicState, found: SimulationResult) -> tuple[str, ...]:
    """Fish tanks that get next to nothing of what they used to."""
    before = periodic.through
    spans = (before.times[-1] - before.times[0], found.times[-1] - found.times[0])
    starved = []
    for vessel in found.plan.vessels:
        if not vessel.use.keeps_fish:
            continue
        usual, now = (
            sum(abs(t.carried.get(r.id, 0.0)) for r in t.plan.runs if r.target == vessel.id) / span
            for t, span in zip((before, found), spans, strict=True)
        )
        if now < _STARVED * usual:
            starved.append(vessel.id)
    return tuple(starved)


def _burst(plan: Plan, periodic: PeriodicState, failure: Failure) -> FailureOutcome:
    """A line that comes off at the pump: it pumps its vessel out to its inlet, at about the flow
    it has without any lift."""
    pump, end = plan.part(failure.place), periodic.through.end
    vessel = plan.vessel(pump.stands_in)
    storage = storage_of(plan, vessel)
    held = end.volumes[vessel.id]
    kept = storage.volume_at(pump.inlet_height)
    lost = max(held - kept, 0.0)
    flow = max(pump.curve.most_flow * pump.dial * pump.wear, 1e-9)
    if not vessel.use.keeps_fish:
        return FailureOutcome(failure, "", None, lost, "", None, 1.0, pump.id, lost / flow)
    usual = storage.volume_at(float(periodic.levels(vessel.id).min()) - vessel.floor_height)
    share = kept / max(usual, 1e-9)
    half = (held - TANK_KEEPS * usual) / flow if share < TANK_KEEPS else None
    return FailureOutcome(
        failure,
        "",
        None,
        lost,
        vessel.id if half is not None else "",
        half,
        share,
        pump.id,
        lost / flow,
    )
