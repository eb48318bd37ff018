"""Siphon beds: which of them cycle, and how."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bathys.network import Balance
from bathys.plan.model import Plan
from bathys.plan.overflows import Siphon
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.simulation import (
    Cycle,
    FedBed,
    Outage,
    PumpedBedLoop,
    SiphonModel,
    cut_power,
    run_cycle,
)
from bathys.vessels import joined, storage_of

__all__ = ["BedResult", "beds_of"]


@dataclass(frozen=True, slots=True)
class BedResult:
    """A siphon bed.

    Attributes
    ----------
    siphon : BellSiphon or LoopSiphon
        Its siphon
    bed : Vessel
        The bed
    feeds : tuple of str
        Ids of the runs that bring it water
    linked : tuple of str
        Ids of the beds that rise and fall with it, itself first
    loop : PumpedBedLoop or FedBed
        The bed with what feeds and drains it
    cycle : Cycle
        What it does
    outages : tuple of Outage
        Power cuts at their worst moments, where one pump and one bed are all there is
    """

    siphon: Siphon
    bed: Vessel
    feeds: tuple[str, ...]
    linked: tuple[str, ...]
    loop: PumpedBedLoop | FedBed
    cycle: Cycle
    outages: tuple[Outage, ...] = ()


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
    found, beside = [], _beds_beside(now)
    for siphon in now.plan.siphons:
        tail = now.plan.run_from(f"{siphon.id}.tail")
        if tail is not None and _is_alone(now.plan, siphon):
            found.append(_bed(now, siphon, tail, _linked_beds(beside, siphon.stands_in)))
    return tuple(found)


def _is_alone(plan: Plan, siphon: Siphon) -> bool:
    return sum(s.stands_in == siphon.stands_in for s in plan.siphons) == 1


def _bed(now: Balance, siphon: Siphon, tail: Run, linked: list[str]) -> BedResult:
    plan, water = now.plan, now.layout.water
    bed = plan.vessel(siphon.stands_in)
    built = SiphonModel(plan, siphon, tail, water.kinematic_viscosity)
    simple = _simple_loop(now, bed, tail, built)
    feeds = tuple(
        r.id for r in plan.runs
        if r.end.partition(".")[0] in linked and plan.owner_of(r.start) not in linked
    )  # fmt: skip
    if simple is not None:
        cycle = run_cycle(simple)
        return BedResult(siphon, bed, feeds, (bed.id,), simple, cycle, cut_power(simple, cycle))
    inflow = sum(max(now.flows[r], 0.0) for r in feeds)
    storage = joined([
        (storage_of(plan, plan.vessel(v)), plan.vessel(v).floor_height - bed.floor_height)
        for v in linked
    ])  # fmt: skip
    tailwater = now.levels.get(tail.end.partition(".")[0], built.outlet)
    fed = FedBed(bed, built, storage, inflow, tailwater)
    return BedResult(siphon, bed, feeds, tuple(linked), fed, run_cycle(fed))


def _beds_beside(now: Balance) -> dict[str, list[str]]:
    """The beds that an open pipe from wall to wall joins to each vessel."""
    plan, found = now.plan, defaultdict(list)
    for run in plan.runs:
        if plan.port(run.start) is None or plan.port(run.end) is None:
            continue
        if now.layout.lines[run.id].shut:
            continue
        one, two = run.start.partition(".")[0], run.end.partition(".")[0]
        for here, other in ((one, two), (two, one)):
            if plan.vessel(other).job == "grow_bed":
                found[here].append(other)
    return found


def _linked_beds(beside: Mapping[str, Sequence[str]], bed: str) -> list[str]:
    """The bed, and the beds that such pipes join to it, one after the other."""
    found, waiting = [bed], [bed]
    while waiting:
        for other in beside.get(waiting.pop(), ()):
            if other not in found:
                found.append(other)
                waiting.append(other)
    return found


def _simple_loop(now: Balance, bed: Vessel, tail: Run, built: SiphonModel) -> PumpedBedLoop | None:
    """One pump, its bed and its tank and nothing else between them, if that is what there is."""
    plan = now.plan
    closer = now.closing.get(bed.id)
    loop = {v for v, c in now.closing.items() if c == closer}
    pumps = [p for p in plan.pumps if p.stands_in == closer and p.switch is None]
    if closer is None or loop != {bed.id, closer} or len(pumps) != 1:
        return None
    riser = plan.run_from(f"{pumps[0].id}.out")
    own = [r for r in plan.runs if plan.owner_of(r.start) in loop]
    direct = riser is not None and riser.end.partition(".")[0] == bed.id
    if riser is None or not direct or set(own) != {riser, tail} or riser.spray is not None:
        return None
    return PumpedBedLoop(plan, pumps[0], riser, bed, plan.vessel(closer), built, now.layout.water)
