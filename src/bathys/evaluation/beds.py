"""Siphon beds: which of them cycle, and how."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.network import Balance, GravityLine, gravity_lines
from bathys.network.gravity_solver import flows_at_levels
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.pumps import Pump
from bathys.plan.supply import TopUp
from bathys.plan.topology import reached
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import Siphon
from bathys.simulation import (
    Cycle,
    EvenlyFedBed,
    Outage,
    PumpedBedLoop,
    SiphonModel,
    cut_power,
    run_cycle,
    unevenly_fed,
)
from bathys.simulation.steady_inflow import NO_LEAKS
from bathys.vessels import joined, storage_of

__all__ = ["CYCLE_DOUBT", "BedResult", "beds_of"]

CYCLE_DOUBT = 0.1
"""How far the cycle of a bed taken as fed evenly may lie from that of beds that run together [-]
(found: within 0.08 on every example)."""

Floats = NDArray[np.float64]

_LEAK_POINTS = 60


@dataclass(frozen=True, slots=True)
class BedResult:
    """A siphon bed.

    Attributes
    ----------
    siphon : Siphon
        Its siphon
    bed : Vessel
        The bed
    feeds : tuple of str
        Ids of the runs that bring it water
    linked : tuple of str
        Ids of the beds that rise and fall with it, itself first
    loop : PumpedBedLoop or EvenlyFedBed
        The bed with what feeds and drains it
    cycle : Cycle
        What it does
    outages : tuple of Outage
        Power cuts at their worst moments, where one pump and one bed are all there is
    other_ways : tuple of str
        Ids of the runs and pumps by which water leaves it below the level its siphon starts at
    fed_by : str
        Why its water does not come evenly: ``timer``, ``float`` or ``siphon``; empty if it does
    """

    siphon: Siphon
    bed: Vessel
    feeds: tuple[str, ...]
    linked: tuple[str, ...]
    loop: PumpedBedLoop | EvenlyFedBed
    cycle: Cycle
    outages: tuple[Outage, ...] = ()
    other_ways: tuple[str, ...] = ()
    fed_by: str = ""


@dataclass(frozen=True, slots=True)
class _Way:
    """A run between the vessels that it begins and ends at."""

    run: str
    start: str
    end: str
    flow: float


def beds_of(now: Balance) -> tuple[BedResult, ...]:
    """Every siphon bed whose siphon has a tail.

    Parameters
    ----------
    now : Balance
        With every pump running

    Returns
    -------
    tuple of BedResult
        In the plan's order

    Raises
    ------
    NotSolved
        If a balance does not settle
    """
    found, beside, rows = [], _beds_beside(now), gravity_lines(now.layout)
    sources, ways = _sources(now), _ways(now)
    for siphon in now.plan.siphons:
        tail = now.plan.run_of(siphon)
        if tail is not None and _is_alone(now.plan, siphon):
            rim = now.plan.vessel(siphon.stands_in).floor_height + siphon.spills_from
            linked = _linked_beds(beside, siphon.stands_in, rim)
            found.append(_bed(now, siphon, tail, linked, rows, sources, ways))
    return tuple(found)


def _is_alone(plan: Plan, siphon: Siphon) -> bool:
    return sum(s.stands_in == siphon.stands_in for s in plan.siphons) == 1


def _bed(
    now: Balance,
    siphon: Siphon,
    tail: Run,
    linked: list[str],
    rows: Sequence[GravityLine],
    sources: Mapping[str, Sequence[str]],
    ways: Sequence[_Way],
) -> BedResult:
    plan = now.plan
    bed = plan.vessel(siphon.stands_in)
    built = SiphonModel(plan, siphon, tail, now.layout.lines[tail.id])
    simple = _simple_loop(now, bed, tail, built)
    feeding = [w for w in ways if _feeds(w, linked)]
    feeds = tuple(w.run for w in feeding)
    if simple is not None:
        cycle = run_cycle(simple)
        return BedResult(siphon, bed, feeds, (bed.id,), simple, cycle, cut_power(simple, cycle))
    inflow = sum(max(w.flow if w.end in linked else -w.flow, 0.0) for w in feeding)
    fed_by = _fed_by(now, linked, sources)
    storage = joined(
        [
            (storage_of(plan, plan.vessel(v)), plan.vessel(v).floor_height - bed.floor_height)
            for v in linked
        ]
    )
    tailwater = now.levels.get(tail.target, built.outlet)
    leaks, other_ways = _leaks(
        now,
        built,
        linked,
        [
            k
            for k in rows
            if k.start in linked and k.end not in linked and k.id != tail.id and not k.backwards
        ],
    )
    fed = EvenlyFedBed(bed, built, storage, inflow, tailwater, leaks)
    cycle = unevenly_fed(fed) if fed_by else run_cycle(fed)
    return BedResult(siphon, bed, feeds, tuple(linked), fed, cycle, (), other_ways, fed_by)


def _ways(now: Balance) -> list[_Way]:
    plan = now.plan
    return [_Way(r.id, plan.owner_of(r.start) or "", r.target, now.flows[r.id]) for r in plan.runs]


def _feeds(way: _Way, linked: Sequence[str]) -> bool:
    """Whether a run brings water to these beds, be it backwards out of a mouth it was to draw
    from."""
    begins, ends = way.start in linked, way.end in linked
    return (ends and not begins) or (begins and not ends and way.flow < 0.0)


def _leaks(
    now: Balance, built: SiphonModel, linked: list[str], rows: Sequence[GravityLine]
) -> tuple[tuple[Floats, Floats], tuple[str, ...]]:
    """What leaves a bed and those linked to it by other ways than its siphon, by level, less what
    float valves let in, and by which; the ways lead elsewhere than to a bed of the same water."""
    fresh = [t for t in now.plan.float_valves if t.stands_in in linked and _feeds_on(now, t, built)]
    pumps = [p for p in now.plan.pumps if p.stands_in in linked and now.pump_flows[p.id] > 0.0]
    if not rows and not pumps and not fresh:
        return NO_LEAKS, ()
    floor, top = built.floor, built.priming_level
    levels = np.linspace(0.0, max(1.05 * top, built.rim + 0.01), _LEAK_POINTS)
    flows = np.zeros(_LEAK_POINTS)
    ways: list[str] = []
    for row in rows:
        down = now.levels.get(row.end or "", -np.inf)
        carried = flows_at_levels(row, floor + levels, down)
        if np.interp(top, levels, carried) > 0.0:
            flows, ways = flows + carried, [*ways, part_id(row.id)]
    for pump in pumps:
        inlet = now.plan.vessel(pump.stands_in).floor_height + pump.inlet_height - floor
        flows = flows + np.where(levels > inlet, now.pump_flows[pump.id], 0.0)
        ways.append(pump.id)
    for top_up in fresh:
        shuts = now.plan.vessel(top_up.stands_in).floor_height + top_up.level - floor
        flows = flows - np.where(levels < shuts, top_up.lets_in, 0.0)
    return (levels, flows), tuple(dict.fromkeys(ways))


def _feeds_on(now: Balance, top_up: TopUp, built: SiphonModel) -> bool:
    """Whether a float valve's water is the siphon's as it comes: in its own bed; in one that is
    linked, only where it never shuts, since the links hold water back there as the siphon draws."""
    shuts = now.plan.vessel(top_up.stands_in).floor_height + top_up.level
    own = top_up.stands_in == built.part.stands_in
    return own or shuts > built.floor + built.priming_level


def _fed_by(now: Balance, linked: list[str], sources: Mapping[str, Sequence[str]]) -> str:
    """Why the water of some beds does not come evenly, told by the nearest cause upstream."""
    plan = now.plan
    siphoned = {s.stands_in for s in plan.siphons if plan.run_of(s) is not None}
    first = [p for v in linked for p in sources.get(v, ()) if plan.owner_of(p) not in linked]

    def cause(place: str) -> str:
        part = plan.part(part_id(place))
        if isinstance(part, Pump):
            return str(part.switch.kind) if part.switch is not None else ""
        return "siphon" if plan.owner_of(place) in siphoned else ""

    def onward(place: str) -> Sequence[str]:
        if cause(place) or plan.group_of(part_id(place)) == "pumps":
            return ()
        return sources.get(plan.owner_of(place) or place, ())

    return next((c for place in reached(first, onward) if (c := cause(place))), "")


def _sources(now: Balance) -> dict[str, list[str]]:
    """Where the water comes from that arrives in a vessel or at a junction, by its id."""
    found: dict[str, list[str]] = defaultdict(list)
    for run in now.plan.runs:
        if now.flows[run.id]:
            up, down = (run.start, run.end) if now.flows[run.id] > 0.0 else (run.end, run.start)
            found[now.plan.owner_of(down) or down].append(up)
    return found


def _beds_beside(now: Balance) -> dict[str, list[tuple[str, float]]]:
    """The beds that an open pipe from wall to wall joins to each bed, and the level over which
    water passes it [m]."""
    plan, found = now.plan, defaultdict(list)
    for run in plan.runs:
        if plan.port(run.start) is None or plan.port(run.end) is None:
            continue
        one, two = run.source, run.target
        are_beds = all(plan.vessel(v).use.floods for v in (one, two))
        if now.layout.lines[run.id].shut or not are_beds:
            continue
        ends = (plan.elevation(run.start) or 0.0, plan.elevation(run.end) or 0.0)
        sill = max(ends) - 0.5 * run.bore.inside
        found[one].append((two, sill))
        found[two].append((one, sill))
    return found


def _linked_beds(
    beside: Mapping[str, Sequence[tuple[str, float]]], bed: str, rim: float
) -> list[str]:
    """The bed, and the beds that such pipes join to it, one after the other, below the level at
    which its siphon spills; a pipe that falls from a bed above joins none."""
    return list(reached([bed], lambda here: [o for o, sill in beside.get(here, ()) if sill < rim]))


def _simple_loop(now: Balance, bed: Vessel, tail: Run, built: SiphonModel) -> PumpedBedLoop | None:
    """One pump, its bed and its tank and nothing else between them, if that is what there is."""
    plan = now.plan
    closer = now.closing.get(bed.id)
    loop = {v for v, c in now.closing.items() if c == closer}
    pumps = [p for p in plan.pumps if p.stands_in == closer and p.switch is None]
    has_fresh = any(t.stands_in == bed.id for t in plan.float_valves)
    if closer is None or loop != {bed.id, closer} or len(pumps) != 1 or has_fresh:
        return None
    riser = plan.run_of(pumps[0])
    own = [r for r in plan.runs if plan.owner_of(r.start) in loop]
    direct = riser is not None and riser.target == bed.id
    if riser is None or not direct or set(own) != {riser, tail} or riser.ends_in is not None:
        return None
    return PumpedBedLoop(
        plan, pumps[0], riser, bed, plan.vessel(closer), built, now.layout.lines[riser.id]
    )
