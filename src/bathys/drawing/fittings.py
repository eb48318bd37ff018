"""What stands in the shells: siphons, standpipes, holes, lifts and pumps."""

from collections.abc import Iterator
from functools import partial

from bathys.drawing.frame import Frame
from bathys.drawing.scene import Rect, Scene, Stroke
from bathys.drawing.stations import Station
from bathys.kinds import facet
from bathys.plan.model import Plan
from bathys.plan.pumps import Pump

__all__ = ["draw_fittings", "place_of"]


_PUMPS_APART = 28.0
_WALL_ROOM = 8.0  # between a riser and the wall of another shell


def place_of(frame: Frame, plan: Plan, id_: str) -> tuple[float, float]:
    """Where the pipe of a pump, a siphon or an outlet begins in the picture.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    id_ : str
        Id of the part

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    part = plan.part(id_)
    if not isinstance(part, Pump):
        found: tuple[float, float] = facet(part, "drawing").place(frame, plan, part)
        return found
    if id_ not in frame.pumps_at:
        frame.pumps_at = _pumps_at(frame, plan)
    floor = plan.vessel(part.stands_in).floor_height
    return frame.pumps_at[id_], frame.y(floor + part.inlet_height)


def _pumps_at(frame: Frame, plan: Plan) -> dict[str, float]:
    """Where each pump stands across its vessel: where its riser goes up clear of other shells, as
    far to the left as may be."""
    places: dict[str, float] = {}
    for pump in plan.pumps:
        taken = [
            places[p.id] for p in plan.pumps if p.id in places and p.stands_in == pump.stands_in
        ]
        free = [
            x
            for x in _pump_places(frame, pump)
            if all(abs(x - other) >= _PUMPS_APART for other in taken)
        ]
        last = max(taken, default=frame.edges(pump.stands_in)[0]) + _PUMPS_APART
        places[pump.id] = min(free or [last], key=partial(_in_the_way, frame, plan, pump))
    return places


def _pump_places(frame: Frame, pump: Pump) -> Iterator[float]:
    left, right = frame.edges(pump.stands_in)
    wide = right - left
    aside = max(0.06 * wide, 12.0)
    for x in (left + aside, right - aside - 4.0, *(left + k * wide for k in (0.3, 0.5, 0.7))):
        yield round(x, 1)


def _in_the_way(frame: Frame, plan: Plan, pump: Pump, x: float) -> int:
    """How much a riser that goes up there would cross: a wall is worse than a shell's middle."""
    run = plan.run_of(pump)
    if run is None:
        return 0
    foot = plan.vessel(pump.stands_in).floor_height + pump.inlet_height
    top = plan.elevation(run.end) or foot
    crossed = 0
    for vessel in plan.vessels:
        low, high = vessel.floor_height, vessel.floor_height + vessel.shape.height
        if vessel.id == pump.stands_in or low >= top or high <= foot:
            continue
        left, right = frame.edges(vessel.id)
        if min(abs(x - left), abs(x - right)) < _WALL_ROOM:
            crossed += 3
        elif left < x < right:
            crossed += 1
    return crossed


def draw_fittings(frame: Frame, scene: Scene, plan: Plan, numbers: dict[str, Station]) -> None:
    """Draw them all, each with its number.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    numbers : dict of str to Station
        The number of each part in the picture
    """
    for part in plan.ways_out:
        facet(part, "drawing").draw(frame, scene, plan, part, numbers)
    for pump in plan.pumps:
        _pump(frame, scene, plan, pump, numbers)


def _pump(frame: Frame, scene: Scene, plan: Plan, pump: Pump, numbers: dict[str, Station]) -> None:
    x, y = place_of(frame, plan, pump.id)
    scene.rects.append(Rect(x - 9, y - 8, 22, 16, "pump", pump.id))
    if pump.hangs:
        vessel = plan.vessel(pump.stands_in)
        rim = frame.y(vessel.floor_height + vessel.shape.height)
        scene.strokes.append(Stroke(f"{x + 10},{y - 8} {x + 10},{rim - 4}", 1.2, "cord", pump.id))
    scene.number([(x + 27, y), (x + 4, y - 20), (x + 4, y + 20), (x - 22, y)], numbers[pump.id])
