"""Where each run goes in the picture."""

from itertools import pairwise

from bathys.drawing.fittings import place_of
from bathys.drawing.frame import Frame
from bathys.drawing.upright_pipes import THICKEST, Pipe
from bathys.drawing.vertical_lanes import VerticalLanes
from bathys.kinds import facet
from bathys.plan.model import Plan
from bathys.plan.pipes import Junction, Run
from bathys.plan.places import part_id
from bathys.plan.pumps import Pump
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import WayOut

__all__ = ["Point", "half_of", "junction_place", "ways_of"]

_HOOK = 14.0  # how far a pipe comes over its outlet
_STUB = 10.0
_ASIDE = (8.0, 14.0, 20.0, 27.0, 35.0, 44.0)  # tried, where an end's own place is taken

Point = tuple[float, float]


def ways_of(frame: Frame, plan: Plan) -> dict[str, list[Point]]:
    """The way of each run, in the plan's order.

    Parameters
    ----------
    frame : Frame
        Where metres land
    plan : Plan
        The plan

    Returns
    -------
    dict
        By run, its corners in the picture; those that have no choice of place had it first
    """
    junctions = {j.id: junction_place(frame, plan, j) for j in plan.junctions}
    taken = VerticalLanes()
    for pump in plan.pumps:
        _stand(frame, plan, pump, taken)
    for part in plan.ways_out:
        pipe: Pipe | None = facet(part, "drawing").pipe(frame, plan, part)
        if pipe is not None:
            taken.add(pipe.x, pipe.top, pipe.foot, pipe.half)
    ways: dict[str, list[Point]] = {}
    for run in sorted(plan.runs, key=lambda r: not isinstance(plan.part(r.start), Junction)):
        way = ways[run.id] = _way(frame, plan, run, junctions, taken)
        for (xa, ya), (xb, yb) in pairwise(way):
            if abs(xa - xb) < 1.0:
                taken.add(xa, ya, yb, half_of(frame, run))
    return {run.id: ways[run.id] for run in plan.runs}


def _stand(frame: Frame, plan: Plan, pump: Pump, taken: VerticalLanes) -> None:
    """A pump's riser."""
    run = plan.run_of(pump)
    if run is not None:
        x, y = place_of(frame, plan, pump.id)
        floor = plan.vessel(pump.stands_in).floor_height
        top = frame.y(plan.elevation(run.end) or floor) - _HOOK
        taken.add(x, top, y, half_of(frame, run))


_OUTSIDE = 34.0  # how far from its vessel an outfall is drawn


def half_of(frame: Frame, run: Run) -> float:
    """Half of how wide a run is drawn, its walls counted.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    run : Run
        The run

    Returns
    -------
    float
        Half its width, [picture units]
    """
    return 0.5 * min(max(frame.wide(run.bore.inside), 3.0), THICKEST) + 1.25


def junction_place(frame: Frame, plan: Plan, junction: Junction) -> Point:
    """Where a junction is drawn: in the middle of what it joins, unless its place is named.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    junction : Junction
        The junction

    Returns
    -------
    Point
        Across and down, in picture units
    """
    if junction.along is not None:
        return frame.x(junction.along), frame.y(junction.height)
    ends = [
        part_id(p)
        for r in plan.runs
        if junction.id in (r.start, r.end)
        for p in (r.start, r.end)
        if p != junction.id
    ]
    places = []
    for id_ in ends:
        part = plan.part(id_)
        if isinstance(part, Vessel):
            places.append(frame.middle(id_))
        elif not isinstance(part, Junction):
            places.append(place_of(frame, plan, id_)[0])
    x = sum(places) / len(places) if places else frame.x(frame.left)
    if plan.is_outfall(junction.id):
        # Outside: clear of the vessels that it drains.
        owners = [plan.owner_of(r.start) for r in plan.runs_to(junction.id)]
        x = max([x, *(frame.edges(o)[1] + _OUTSIDE for o in owners if o is not None)])
    return round(x, 1), frame.y(junction.height)


def _start(frame: Frame, plan: Plan, run: Run, junctions: dict[str, Point]) -> Point:
    owner = run.source
    if owner in junctions:
        return junctions[owner]
    if isinstance(plan.part(owner), Vessel):
        height = frame.y(plan.elevation(run.start) or 0.0)
        left, right = frame.edges(owner)
        return (
            right if _end_x(frame, plan, run, junctions) >= frame.middle(owner) else left,
            height,
        )
    x, y = place_of(frame, plan, owner)
    return (x, y - 8) if isinstance(plan.part(owner), Pump) else (x, y)


def _end_x(frame: Frame, plan: Plan, run: Run, junctions: dict[str, Point]) -> float:
    owner = run.target
    return junctions[owner][0] if owner in junctions else frame.middle(owner)


def _end(
    frame: Frame,
    plan: Plan,
    run: Run,
    start: Point,
    junctions: dict[str, Point],
    taken: VerticalLanes,
) -> Point:
    """The run's end: just inside the wall it comes to first, clear of what stands there already."""
    owner = run.target
    if owner in junctions:
        return junctions[owner]
    left, right = frame.edges(owner)
    y = frame.y(plan.elevation(run.end) or 0.0)
    inside = 0.13 * (right - left)
    if left + 6 < start[0] < right - 6:  # from right above or below
        if isinstance(plan.part(run.start), Junction):
            return start[0], y
        shift = min(0.12 * frame.across, 14.0)
        x = start[0] - shift if start[0] - shift > left + 6 else start[0] + shift
    else:
        x = left + inside if start[0] <= left + 6 else right - inside
    x = round(min(max(x, left + 6), right - 6), 1)
    others = (round(x + side * step, 1) for step in _ASIDE for side in (1.0, -1.0))
    places = [x, *(p for p in others if left + 6 <= p <= right - 6)]
    return taken.first_clear(places, min(start[1], y - _HOOK), y, half_of(frame, run)), y


def _way(
    frame: Frame, plan: Plan, run: Run, junctions: dict[str, Point], taken: VerticalLanes
) -> list[Point]:
    start = _start(frame, plan, run, junctions)
    end = _end(frame, plan, run, start, junctions, taken)
    source, target = plan.part(run.source), plan.part(run.target)
    (x0, y0), (x1, y1) = start, end
    leaves = facet(source, "drawing").LEAVES if isinstance(source, WayOut) else ""
    is_side = isinstance(source, Vessel) or leaves == "sideways"
    if isinstance(target, Vessel) and isinstance(source, Vessel):
        return [start, (x1, y1)] if abs(y1 - y0) < _HOOK else [start, (x1, y0), (x1, y1)]
    if leaves == "outside":  # down outside the bed, and under it
        under = frame.y(plan.vessel(source.stands_in).floor_height) + _STUB
        bend = min(under, y1) if y1 > y0 else y0
        return [start, (x0, bend), (x1, bend), end]
    if isinstance(target, Junction):
        return _to_junction(start, end, isinstance(source, Pump), is_side)
    if is_side:
        return [start, (x1, y0), end] if y1 >= y0 else [start, (x1, y1)]
    if isinstance(source, Junction):
        over = y1 - _HOOK if y1 < y0 else y0
        return [start, (x1, y0), end] if over == y0 else [start, (x0, over), (x1, over), end]
    if y1 < y0:  # rises: up, across a hand above the outlet, and down into it
        over = y1 - _HOOK
        return [start, (x0, over), (x1, over), end]
    bend = max(y0 + 6, y1 - 16) if abs(x1 - x0) < 40 else y0 + _STUB
    return [start, (x0, bend), (x1, bend), end]


def _to_junction(start: Point, end: Point, from_pump: bool, is_side: bool) -> list[Point]:
    (x0, y0), (x1, y1) = start, end
    if from_pump:
        return [start, (x0, y1), end]
    if is_side:
        return [start, (x1, y0), end]
    if y1 > y0:  # falls from a floor: down, then along to it
        bend = min(y0 + _STUB, y1)
        return [start, (x0, bend), (x1, bend), end] if bend < y1 else [start, (x0, y1), end]
    return [start, (x1, y0), end] if y0 != y1 else [start, end]
