"""What must hold between the parts of a plan for it to mean anything.

Each check raises :class:`PlanFault` with the path of the part and a sentence. What is merely
unwise is not refused here: it becomes a finding.
"""

import math
from collections.abc import Iterator

from bathys.plan.model import Plan
from bathys.plan.places import part_id
from bathys.plan.vessel import Vessel

__all__ = ["PlanFault", "check_plan"]

_HAIR = 1e-9


class PlanFault(ValueError):
    """A plan that contradicts itself, or a file whose parts cannot be told apart.

    Attributes
    ----------
    path : str
        Path of the part at fault, such as ``vessels.B1.media``
    sentence : str
        What is wrong, for the builder
    """

    def __init__(self, path: str, sentence: str) -> None:
        super().__init__(f"{path}: {sentence}")
        self.path = path
        self.sentence = sentence


def check_plan(plan: Plan) -> None:
    """Hold a plan's parts against each other.

    Parameters
    ----------
    plan : Plan
        The plan

    Raises
    ------
    PlanFault
        For the first part that does not go with the others
    """
    for check in (
        _unique_ids,
        _links,
        _vessel_heights,
        _standing_heights,
        _nested,
        _switches,
        _fittings,
        _filters,
        _room,
    ):
        check(plan)


def _unique_ids(plan: Plan) -> None:
    """No two parts share an id."""
    seen: set[str] = set()
    for group, parts in plan.lists():
        for part in parts:
            if part.id in seen:
                raise PlanFault(f"{group}.{part.id}.id", f"another part is called {part.id} too")
            seen.add(part.id)
    for vessel in plan.vessels:
        names = [port.name for port in vessel.ports]
        if len(names) != len(set(names)):
            raise PlanFault(f"vessels.{vessel.id}.ports", "two ports share a name")


def _ports(plan: Plan) -> tuple[set[str], set[str]]:
    ends = {f"{v.id}.{p.name}" for v in plan.vessels for p in v.ports}
    ends |= {j.id for j in plan.junctions}
    starts = {p.leads_from for p in (*plan.pumps, *plan.ways_out)}
    return ends | starts, ends


def _links(plan: Plan) -> None:
    """What stands in a vessel stands in one there is; runs join places that exist."""
    vessels = {v.id for v in plan.vessels}
    for kind in ("pumps", "siphons", "outlets", "top_ups", "fish", "air", "appliances"):
        for part in getattr(plan, kind):
            if part.stands_in not in vessels:
                raise PlanFault(
                    f"{kind}.{part.id}.stands_in", f"there is no vessel called {part.stands_in}"
                )
    for transfer in plan.transfers:
        for field in ("source", "target", "stands_in"):
            named = getattr(transfer, field, None)
            if named is not None and named not in vessels:
                raise PlanFault(
                    f"transfers.{transfer.id}.{field}", f"there is no vessel called {named}"
                )
    pumps = {p.id for p in plan.air_pumps}
    for stone in plan.air:
        if stone.fed_by is not None and stone.fed_by not in pumps:
            raise PlanFault(f"air.{stone.id}.fed_by", f"there is no air pump called {stone.fed_by}")
    for top_up in plan.top_ups:
        if top_up.draws_from is not None and top_up.draws_from not in vessels:
            raise PlanFault(
                f"top_ups.{top_up.id}.source", f"there is no vessel called {top_up.draws_from}"
            )
    _check_runs(plan)
    for junction in plan.junctions:
        meeting = {r.id for r in plan.runs if junction.id in (r.start, r.end)}
        if junction.straight is not None and junction.straight not in meeting:
            raise PlanFault(
                f"junctions.{junction.id}.straight",
                f"no run called {junction.straight} begins or ends at {junction.id}",
            )


def _check_runs(plan: Plan) -> None:
    starts, ends = _ports(plan)
    junctions = {j.id for j in plan.junctions}
    taken: set[str] = set()
    for run in plan.runs:
        if run.start not in starts:
            raise PlanFault(f"runs.{run.id}.from", f"there is no port called {run.start}")
        if run.end not in ends:
            raise PlanFault(
                f"runs.{run.id}.to", f"there is no vessel port or junction called {run.end}"
            )
        if run.start == run.end:
            raise PlanFault(f"runs.{run.id}.to", "the run ends where it starts")
        if plan.is_outfall(run.start):
            raise PlanFault(f"runs.{run.id}.from", f"no run begins at the outfall {run.start}")
        if run.start in taken:
            raise PlanFault(f"runs.{run.id}.from", f"another run starts at {run.start} already")
        if run.start not in junctions:
            taken.add(run.start)


def _nested(plan: Plan) -> None:
    """What stands within another vessel fits in it, and nothing stands within itself."""
    vessels = {v.id: v for v in plan.vessels}
    for vessel in plan.vessels:
        if vessel.false_cone is not None and vessel.false_cone.cone_height >= vessel.shape.height:
            raise PlanFault(
                f"vessels.{vessel.id}.false_cone.cone_height", "the cone must end below the rim"
            )
        if vessel.false_cone is not None and vessel.false_cone.foot_diameter >= _across(vessel):
            raise PlanFault(
                f"vessels.{vessel.id}.false_cone.foot_diameter",
                "the cone's foot must be narrower than the vessel",
            )
        wrong = vessel.settler.fault(vessel.shape) if vessel.settler is not None else None
        if wrong is not None:
            field, sentence = wrong
            raise PlanFault(f"vessels.{vessel.id}.settler.{field}", sentence)
        if vessel.within is None:
            continue
        path = f"vessels.{vessel.id}.within"
        outer = vessels.get(vessel.within)
        if outer is None:
            raise PlanFault(path, f"there is no vessel called {vessel.within}")
        if outer.within is not None or outer is vessel:
            raise PlanFault(path, "it must stand in a vessel that stands on its own")
        if vessel.floor_height < outer.floor_height - _HAIR:
            raise PlanFault(path, "its floor would lie under the floor of the vessel around it")
    for outer in plan.vessels:
        inside = [v for v in plan.vessels if v.within == outer.id]
        if sum(v.shape.footprint for v in inside) >= outer.shape.footprint:
            raise PlanFault(
                f"vessels.{inside[0].id}.within", f"there is no room for it in {outer.id}"
            )


def _switches(plan: Plan) -> None:
    """Each switch goes with its pump, such as a float that stops it above its inlet."""
    for pump in plan.pumps:
        fault = pump.switch.fault(pump.inlet_height) if pump.switch is not None else None
        if fault is not None:
            field, sentence = fault
            raise PlanFault(f"pumps.{pump.id}.switch.{field}", sentence)
    for run in plan.runs:
        if run.valve_clock is not None and run.valve_clock.clock is None:
            raise PlanFault(f"runs.{run.id}.valve_clock", "a valve is opened by the clock only")


def _fittings(plan: Plan) -> None:
    """Each fitting has what its kind needs, such as a reducer its other bore."""
    for run in plan.runs:
        for fitting in run.fittings:
            if fitting.fault is not None:
                field, sentence = fitting.fault
                raise PlanFault(f"runs.{run.id}.fittings.{fitting.kind}.{field}", sentence)


def _filters(plan: Plan) -> None:
    """A filter stands where water can pass it: none within a vessel that its run does not drain."""
    for run in plan.runs:
        if run.filter is None or run.filter.STANDS != "before":
            continue
        path = f"runs.{run.id}.filter"
        if plan.owner_of(run.start) is None:
            raise PlanFault(path, "it stands in a vessel, and this run begins at a joint")
        if plan.group_of(part_id(run.start)) == "siphons":
            raise PlanFault(path, "a siphon neither starts nor stops behind it")


def _heights(vessel: Vessel) -> Iterator[tuple[str, str, float]]:
    if vessel.water_depth is not None:
        yield "water_depth", "the water", vessel.water_depth
    if vessel.media is not None:
        yield "media.top", "the media", vessel.media.top
    yield "freeboard", "the freeboard", vessel.freeboard


def _vessel_heights(plan: Plan) -> None:
    """What stands in a vessel stays below its rim."""
    for vessel in plan.vessels:
        for field, what, height in _heights(vessel):
            if height > vessel.shape.height:
                raise PlanFault(
                    f"vessels.{vessel.id}.{field}", f"{what} would be higher than the vessel's rim"
                )
        if vessel.media is not None and vessel.media.bottom >= vessel.media.top:
            raise PlanFault(
                f"vessels.{vessel.id}.media.bottom", "the media must begin below where they end"
            )


def _standing_heights(plan: Plan) -> None:
    """What stands in it too, and what lets water, or air, in."""
    shells = {v.id: v.shape.height for v in plan.vessels}
    for part in plan.ways_out:
        for field, what, height in part.heights():
            if height > shells[part.stands_in]:
                raise PlanFault(
                    f"{part.GROUP}.{part.id}.{field}",
                    f"{what} would be higher than the vessel's rim",
                )
    for top_up in plan.top_ups:
        if top_up.level > shells[top_up.stands_in]:
            raise PlanFault(
                f"top_ups.{top_up.id}.level",
                "the float's level would be higher than the vessel's rim",
            )
    for stone in plan.air:
        if stone.mouth >= shells[stone.stands_in]:
            raise PlanFault(f"air.{stone.id}.height", "it would lie over the vessel's rim")
    for pump in plan.pumps:
        if pump.inlet_height >= shells[pump.stands_in]:
            raise PlanFault(
                f"pumps.{pump.id}.inlet_height", "the pump would stand above the vessel's rim"
            )


def _across(vessel: Vessel) -> float:
    """How wide a vessel is at its narrower side, at its widest height [m]; without end for one
    that was measured by its volumes."""
    shape = vessel.shape
    sides = [getattr(shape, f) for f in ("length", "width", "diameter") if hasattr(shape, f)]
    return min(sides, default=math.inf)


def _room(plan: Plan) -> None:
    """No vessel is narrower than a pipe that stands, begins or ends in it."""
    across = {v.id: _across(v) for v in plan.vessels}
    pipes = [(w.stands_in, w.widest) for w in plan.ways_out if w.widest is not None]
    pipes += [(part_id(end), r.bore) for r in plan.runs for end in (r.start, r.end)]
    for vessel, bore in pipes:
        if bore.inside >= across.get(vessel, math.inf):
            raise PlanFault(
                f"vessels.{vessel}.shape",
                "the vessel would be narrower than a pipe that stands or ends in it",
            )
