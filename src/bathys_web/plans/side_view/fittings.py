"""What stands in the shells: siphons, standpipes, holes, lifts and pumps."""

from collections.abc import Callable, Iterator
from typing import Any

from bathys.plan.model import Plan
from bathys.plan.overflows import BellSiphon, DrilledHoles, LoopSiphon, SolidsLift, Standpipe
from bathys.plan.pumps import Pump
from bathys_web.plans.side_view.frame import Frame
from bathys_web.plans.side_view.scene import Rect, Scene, Stroke
from bathys_web.plans.stations import Station

__all__ = ["draw_fittings", "place_of"]


_LOOP = 16.0  # how far a loop of tube stands outside its bed
_PUMPS_APART = 28.0
_WALL_ROOM = 8.0  # between a riser and the wall of another shell


def place_of(frame: Frame, plan: Plan, id_: str) -> tuple[float, float]:
    """Where the pipe of a pump, a siphon or an outlet begins in the picture."""
    part = plan.part(id_)
    left, right = frame.edges(part.stands_in)
    wide = right - left
    floor = plan.vessel(part.stands_in).floor_height
    if isinstance(part, Pump):
        if id_ not in frame.pumps_at:
            frame.pumps_at = _pumps_at(frame, plan)
        return frame.pumps_at[id_], frame.y(floor + part.inlet_height)
    if isinstance(part, SolidsLift):
        return round(right - max(0.1 * wide, 8.0), 1), frame.y(floor + part.crest_height)
    if isinstance(part, DrilledHoles):
        return right, frame.y(floor + part.height)
    if isinstance(part, LoopSiphon):
        return round(right + _LOOP, 1), frame.y(floor + part.crest_height + 0.5 * part.pipe_bore)
    own = [p.id for p in (*plan.siphons, *plan.outlets)
           if p.stands_in == part.stands_in and isinstance(p, BellSiphon | Standpipe)]  # fmt: skip
    return round(right - (0.24 + 0.2 * own.index(id_)) * wide, 1), frame.y(floor)


def _pumps_at(frame: Frame, plan: Plan) -> dict[str, float]:
    """Where each pump stands across its vessel: where its riser goes up clear of other shells, as
    far to the left as may be."""
    places: dict[str, float] = {}
    for pump in plan.pumps:
        taken = [places[p.id] for p in plan.pumps
                 if p.id in places and p.stands_in == pump.stands_in]  # fmt: skip
        free = [x for x in _pump_places(frame, pump)
                if all(abs(x - other) >= _PUMPS_APART for other in taken)]  # fmt: skip
        last = max(taken, default=frame.edges(pump.stands_in)[0]) + _PUMPS_APART
        places[pump.id] = min(free or [last], key=lambda x, p=pump: _in_the_way(frame, plan, p, x))
    return places


def _pump_places(frame: Frame, pump: Pump) -> Iterator[float]:
    left, right = frame.edges(pump.stands_in)
    wide = right - left
    aside = max(0.06 * wide, 12.0)
    for x in (left + aside, right - aside - 4.0, *(left + k * wide for k in (0.3, 0.5, 0.7))):
        yield round(x, 1)


def _in_the_way(frame: Frame, plan: Plan, pump: Pump, x: float) -> int:
    """How much a riser that goes up there would cross: a wall is worse than a shell's middle."""
    run = plan.run_from(f"{pump.id}.out")
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
    """Draw them all, each with its number."""
    for part in (*plan.siphons, *plan.outlets, *plan.pumps):
        _DRAW[type(part)](frame, scene, plan, part, numbers)


def _bell(
    frame: Frame, scene: Scene, plan: Plan, siphon: BellSiphon, numbers: dict[str, Station]
) -> None:
    vessel = plan.vessel(siphon.stands_in)
    floor = vessel.floor_height
    middle = place_of(frame, plan, siphon.id)[0]
    bore, bell = siphon.standpipe_bore.inside, siphon.bell_bore.inside
    top = floor + siphon.rim_height + 0.6 * bore + 0.02
    if siphon.guard_diameter:
        half = frame.wide(siphon.guard_diameter) / 2
        tall = vessel.shape.height * 0.96
        scene.rects.append(
            Rect(middle - half, frame.y(floor + tall), 2 * half, frame.tall(tall), "guard",
                 siphon.id)
        )  # fmt: skip
    half = max(frame.wide(bell) / 2, 5.0)
    slots, crown = frame.y(floor + siphon.slot_height), frame.y(top)
    scene.avoid((middle - half - 2, crown - 2, middle + half + 2, slots))
    points = f"{middle - half},{slots} {middle - half},{crown} {middle + half},{crown} " \
             f"{middle + half},{slots}"  # fmt: skip
    scene.strokes.append(Stroke(points, 2.2, "bell", siphon.id))
    _upright(frame, scene, middle, bore, floor, siphon.rim_height, siphon.id)
    if siphon.air_tube_height:
        x = middle + max(frame.wide(bell) / 2, 5.0) + 4
        tube = f"{middle},{crown} {middle},{crown - 4} {x},{crown - 4} " \
               f"{x},{frame.y(floor + siphon.air_tube_height)}"  # fmt: skip
        scene.strokes.append(Stroke(tube, 1.5, "air-tube", siphon.id))
    bed_top = frame.y(floor + vessel.shape.height)
    y = min(crown - 16, bed_top - 12)
    scene.number([(middle, y), (middle + 22, y), (middle - 22, y)], numbers[siphon.id])


def _loop(
    frame: Frame, scene: Scene, plan: Plan, siphon: LoopSiphon, numbers: dict[str, Station]
) -> None:
    """Out through the wall, up outside, and over."""
    floor = plan.vessel(siphon.stands_in).floor_height
    right = frame.edges(siphon.stands_in)[1]
    x, crest = place_of(frame, plan, siphon.id)
    hole = frame.y(floor + siphon.bulkhead_height)
    wide = max(frame.wide(siphon.pipe_bore), 3.0)
    points = f"{right - 6},{hole} {right + 0.5 * _LOOP},{hole} {right + 0.5 * _LOOP},{crest} " \
             f"{x},{crest}"  # fmt: skip
    scene.strokes.append(Stroke(points, round(wide + 2.5, 1), "pipe-wall", siphon.id))
    scene.strokes.append(Stroke(points, wide, "pipe", siphon.id))
    scene.number([(x, crest - 16), (x + 18, crest - 8), (right - 16, crest - 16)],
                 numbers[siphon.id])  # fmt: skip


def _upright(
    frame: Frame, scene: Scene, middle: float, bore: float, floor: float, rim: float, part: str
) -> None:
    half = max(frame.wide(bore) / 2, 2.2)
    scene.avoid((middle - half - 2, frame.y(floor + rim), middle + half + 2, frame.y(floor)))
    for side in (-half, half):
        pipe = f"{middle + side},{frame.y(floor + rim)} {middle + side},{frame.y(floor)}"
        scene.strokes.append(Stroke(pipe, 1.4, "standpipe", part))


def _standpipe(
    frame: Frame, scene: Scene, plan: Plan, outlet: Standpipe, numbers: dict[str, Station]
) -> None:
    vessel = plan.vessel(outlet.stands_in)
    floor, middle = vessel.floor_height, place_of(frame, plan, outlet.id)[0]
    _upright(frame, scene, middle, outlet.bore.inside, floor, outlet.rim_height, outlet.id)
    if outlet.holes:
        y = frame.y(floor + outlet.hole_height)
        scene.strokes.append(Stroke(f"{middle - 6},{y} {middle + 6},{y}", 1.6, "mark", outlet.id))
    rim = frame.y(floor + vessel.shape.height)
    over = frame.y(floor + outlet.rim_height) - 14
    scene.number([(middle, min(over, rim - 12)), (middle, over), (middle + 20, over),
                  (middle - 20, over)], numbers[outlet.id])  # fmt: skip


def _holes(
    frame: Frame, scene: Scene, plan: Plan, outlet: DrilledHoles, numbers: dict[str, Station]
) -> None:
    x, y = place_of(frame, plan, outlet.id)
    scene.strokes.append(Stroke(f"{x - 5},{y} {x + 5},{y}", 3.0, "mark", outlet.id))
    scene.number([(x - 18, y), (x + 18, y - 14), (x + 18, y + 14)], numbers[outlet.id])


def _lift(
    frame: Frame, scene: Scene, plan: Plan, outlet: SolidsLift, numbers: dict[str, Station]
) -> None:
    """Up from near the floor, over the crest, with an open top."""
    vessel = plan.vessel(outlet.stands_in)
    floor = vessel.floor_height
    x, crest = place_of(frame, plan, outlet.id)
    foot = frame.y(floor + outlet.intake_height)
    top = crest - 16 if outlet.vented else crest
    wide = max(frame.wide(outlet.bore.inside), 4.0)
    scene.avoid((x - 0.5 * wide - 2, top, x + 0.5 * wide + 2, foot))
    points = f"{x},{foot} {x},{top}"
    scene.strokes.append(Stroke(points, round(wide + 2.5, 1), "pipe-wall", outlet.id))
    scene.strokes.append(Stroke(points, wide, "pipe", outlet.id))
    scene.number([(x - 18, crest + 20), (x - 18, (foot + crest) / 2), (x - 18, crest - 14),
                  (x, top - 14)], numbers[outlet.id])  # fmt: skip


def _pump(frame: Frame, scene: Scene, plan: Plan, pump: Pump, numbers: dict[str, Station]) -> None:
    x, y = place_of(frame, plan, pump.id)
    scene.rects.append(Rect(x - 9, y - 8, 22, 16, "pump", pump.id))
    scene.number([(x + 27, y), (x + 4, y - 20), (x + 4, y + 20), (x - 22, y)], numbers[pump.id])


_DRAW: dict[type, Callable[[Frame, Scene, Plan, Any, dict[str, Station]], None]] = {
    BellSiphon: _bell, LoopSiphon: _loop, Standpipe: _standpipe, DrilledHoles: _holes,
    SolidsLift: _lift, Pump: _pump,
}  # fmt: skip
