"""What went wrong in a plan that was followed, and which rules must have told of it."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from bathys.network.layout import layout_of
from bathys.network.rest import at_rest
from bathys.physics.water import water_at
from bathys.plan import Plan
from bathys.plan.topology import reached
from bathys.rules import Finding
from bathys.simulation import SimulationResult
from bathys.vessels import storage_of

__all__ = ["Harm", "false_alarms", "harms_of", "is_told"]

_LEAST_SPILL = 2e-4  # [m³]
_LEAST_FLOW = 1e-3 / 3600.0  # a litre an hour is none [m³/s]
_LEAST_DRY = 5.0  # [s]
_FED = {"fish_tank", "grow_bed", "raft", "settler", "biofilter"}

RULES_OF = {
    "spills": {"U0", "U2", "U5", "U6", "U7", "U12", "U14", "U15", "B1", "B6", "B7", "P3"},
    "air": {"U0", "U1", "U3", "U8", "U14", "U15", "F8"},
    "emptied": {"U0", "U1", "U3", "U7", "U16", "U13", "U14", "U15", "P4", "P5"},
    "never_starts": {"B1", "B9", "B11", "F0", "F6", "scope"},
    "never_stops": {"B1", "B9", "scope"},
    "starved": {"F0", "F2", "F6", "F8", "F9", "scope"},
}
"""By harm, the rules that speak of it."""
_OF_EVENTS = {
    "U0",
    "U1",
    "U2",
    "U3",
    "U7",
    "U8",
    "U12",
    "U13",
    "U15",
    "B1",
    "B6",
    "F0",
    "F6",
    "F8",
    "U14",
}
"""Rules whose faults say that something happens within a day or a power cut."""


@dataclass(frozen=True)
class Harm:
    """Something that went wrong.

    Attributes
    ----------
    kind : str
        A key of ``RULES_OF``
    place : str
        Id of the part
    """

    kind: str
    place: str


def harms_of(run: SimulationResult, cut_from: float) -> list[Harm]:
    """Harms of a plan followed from rest, with a power cut from some time on."""
    return [*_spills(run), *_air(run), *_emptied(run), *_siphons(run, cut_from), *_starved(run)]


def _spills(run: SimulationResult) -> Iterator[Harm]:
    layout = layout_of(run.plan, water_at(run.plan.site.water_temperature))
    poured = at_rest(layout).spilled
    for vessel in run.plan.vessels:
        if run.spills.get(vessel.id, 0.0) + poured.get(vessel.id, 0.0) > _LEAST_SPILL:
            yield Harm("spills", vessel.id)


def _air(run: SimulationResult) -> Iterator[Harm]:
    for pump, time in run.dry.items():
        if time > _LEAST_DRY:
            yield Harm("air", pump)


def _emptied(run: SimulationResult) -> Iterator[Harm]:
    """A fish tank that is left with less than a third of what it began with."""
    for vessel in run.plan.vessels:
        if vessel.job != "fish_tank":
            continue
        storage = storage_of(run.plan, vessel)
        volumes = storage.volume(run.level(vessel.id) - vessel.floor_height)
        if volumes[0] > 1e-3 and volumes.min() < volumes[0] / 3.0:
            yield Harm("emptied", vessel.id)


def _siphons(run: SimulationResult, cut_from: float) -> Iterator[Harm]:
    plan = run.plan
    for siphon in plan.siphons:
        bed = siphon.stands_in
        alone = sum(s.stands_in == bed for s in plan.siphons) == 1
        if plan.run_from(f"{siphon.id}.tail") is None or not alone:
            continue
        if _brought(run, bed) < 2.0 * _LEAST_FLOW * run.times[-1]:
            continue  # without water it is no siphon's fault
        starts, breaks = (
            [t for t in run.times_of(k, siphon.id) if t < cut_from] for k in ("starts", "breaks")
        )
        if not starts:
            yield Harm("never_starts", siphon.id)
        elif not breaks:
            yield Harm("never_stops", siphon.id)


def _brought(run: SimulationResult, vessel: str) -> float:
    """What came to a vessel [m³]."""
    found = 0.0
    for one in run.plan.runs:
        carried = run.carried.get(one.id, 0.0)
        if one.end.partition(".")[0] == vessel:
            found += max(carried, 0.0)
        elif run.plan.owner_of(one.start) == vessel and run.plan.port(one.start) is not None:
            found += max(-carried, 0.0)
    return found


def _starved(run: SimulationResult) -> Iterator[Harm]:
    plan = run.plan
    if not any(plan.run_from(f"{p.id}.out") for p in plan.pumps):
        return  # a plan without a pump is told as such
    by_hand = {m.target for m in plan.moves}
    for vessel in plan.vessels:
        gets = _brought(run, vessel.id) >= _LEAST_FLOW * run.times[-1]
        if (
            vessel.job in _FED
            and not gets
            and vessel.id not in by_hand
            and not (vessel.job == "grow_bed" and _is_linked(run, vessel.id))
        ):
            yield Harm("starved", vessel.id)


def _is_linked(run: SimulationResult, vessel: str) -> bool:
    """Whether an open pipe joins a bed to another that gets water, so that it rises and falls with
    that."""
    plan = run.plan
    beds = {v.id for v in plan.vessels if v.job == "grow_bed"}
    lines = layout_of(plan, water_at(plan.site.water_temperature)).lines
    joined = {vessel}
    for _ in beds:
        for r in plan.runs:
            ends = {r.start.partition(".")[0], r.end.partition(".")[0]}
            if ends <= beds and ends & joined and not lines[r.id].shut:
                joined |= ends
    return any(_brought(run, v) >= _LEAST_FLOW * run.times[-1] for v in joined - {vessel})


def _near(plan: Plan, place: str) -> set[str]:
    """A part and those that a finding on it may name instead: the vessel it stands in, what stands
    in that, the runs that lead there or away, and what moves its water by the clock."""
    vessel = plan.owner_of(place) or place
    found = {place, vessel}
    for group in ("pumps", "siphons", "outlets", "top_ups"):
        found |= {p.id for p in getattr(plan, group) if p.stands_in == vessel}
    found |= {
        r.id for r in plan.runs if vessel in (r.end.partition(".")[0], plan.owner_of(r.start))
    }
    return found | {t.id for t in plan.transfers}


def _leading_to(plan: Plan, vessel: str) -> set[str]:
    """The runs by which water comes to a vessel from the last pump or vessel before it: a valve
    shut in any of them is told of that run."""

    def onward(id_: str) -> list[str]:
        start = plan.part(id_).start
        return [r.id for r in plan.runs_to(start)] if plan.group_of(start) == "junctions" else []

    return set(reached([r.id for r in plan.runs if r.target == vessel], onward))


def _upstream(plan: Plan, vessel: str) -> set[str]:
    """The vessels whose water comes to a vessel."""
    above: dict[str, list[str]] = {}
    for run in plan.runs:
        start, end = (plan.owner_of(p) or p for p in (run.start, run.end))
        above.setdefault(end, []).append(start)
    return set(reached(above.get(vessel, []), lambda here: above.get(here, [])))


def is_told(harm: Harm, findings: Sequence[Finding], plan: Plan) -> bool:
    """Whether a fault or a warning of a rule that speaks of a harm names its place."""
    near = _near(plan, harm.place)
    if harm.kind == "starved":
        # A vessel starves too when the pump that feeds it is told to run dry.
        dry = {p.id for p in plan.pumps} | {p.stands_in for p in plan.pumps}
        if any(
            f.severity == "fault" and f.rule.id in RULES_OF["air"] and f.place in dry
            for f in findings
        ):
            return True
    if harm.kind == "starved" and any(
        f.severity == "fault" and f.rule.id == "U0" and f.place in _upstream(plan, harm.place)
        for f in findings
    ):
        return True  # what is told to overflow on its way does not arrive
    if harm.kind in ("starved", "never_starts"):
        near |= {p.id for p in plan.pumps} | _leading_to(plan, plan.owner_of(harm.place) or "")
    if harm.kind == "emptied" and any(
        f.severity == "fault" and f.rule.id in {"U0", "B6", "U15"} for f in findings
    ):
        return True  # what is told to run over is missing in the tank
    return any(
        f.severity != "note" and f.rule.id in RULES_OF[harm.kind] and f.place in near
        for f in findings
    )


def false_alarms(findings: Iterable[Finding], harms: list[Harm], horizon: float) -> list[Finding]:
    """Faults that speak of something that should have been seen, where nothing was."""
    if harms:
        return []
    return [
        f
        for f in findings
        if f.severity == "fault"
        and f.rule.id in _OF_EVENTS
        and float(f.figures.get("after", 0.0)) <= horizon
    ]
