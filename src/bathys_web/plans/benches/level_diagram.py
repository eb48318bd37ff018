"""The falls of a plan as steps: each vessel's water at its height, the highest first, and what runs
or is lifted from one to the next."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from bathys.drawing import Rect, Scene, Stroke, Text
from bathys.drawing.stations import stations_of
from bathys.evaluation import Evaluation, Fall
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["draw_stairs"]

_TALL, _TOP, _FOOT, _EDGE = 330.0, 26.0, 44.0, 16.0
_LEAST_WIDE, _COLUMN = 640.0, 170.0
_SHELL = 0.36  # of a column's width
_LANE = 11.0
_LETTER = 7.0

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class _Step:
    """One fall in the picture: its way, and what it says."""

    fall: Fall
    way: tuple[Point, ...]
    onward: bool
    words: str


def draw_stairs(found: Evaluation, falls: Sequence[Fall], units: System) -> Scene:
    """Draw the falls.

    Parameters
    ----------
    found : Evaluation
        The plan's numbers
    falls : sequence of Fall
        Its steps
    units : str
        The system shown

    Returns
    -------
    Scene
        Heights to scale; vessels that stand, fill and fall alike are drawn once
    """
    plan = found.plan
    groups = _alike(found, falls, units)
    groups.sort(key=lambda g: -found.levels[g[0].id].high)
    wide = max(_LEAST_WIDE, _COLUMN * len(groups))
    column = (wide - 2.0 * _EDGE) / max(len(groups), 1)
    scene = Scene(wide, _TALL)
    low = min(v.floor_height for v in plan.vessels)
    high = max(
        [v.floor_height + v.shape.height for v in plan.vessels]
        + [f.run.start_head for f in falls if not f.is_lift]
    )
    per = (_TALL - _TOP - _FOOT) / max(high - low, 0.1)

    def y(level: float) -> float:
        return round(_TALL - _FOOT - (level - low) * per, 1)

    edges = {}
    for at, group in enumerate(groups):
        middle, half = _EDGE + (at + 0.5) * column, 0.5 * _SHELL * column
        edges[group[0].id] = (round(middle - half, 1), round(middle + half, 1))
        vessel, levels = group[0], found.levels[group[0].id]
        floor, rim = vessel.floor_height, vessel.floor_height + vessel.shape.height
        heights = (y(rim), y(min(levels.high, rim)), y(min(levels.low, rim)), y(floor))
        _shell(scene, edges[vessel.id], heights, vessel.id)
        more = f" and {len(group) - 1} more" if len(group) > 1 else ""
        scene.texts.append(
            Text(round(middle, 1), _TALL - 12.0, f"{vessel.name}{more}", "vessel-name", "middle")
        )
    steps = list(_steps(falls, edges, y, units))
    for step in steps:
        _draw(scene, step)
    for step in steps:
        _tell(scene, step)
    return scene


def _alike(found: Evaluation, falls: Sequence[Fall], units: System) -> list[list[Vessel]]:
    """Vessels that look the same in this picture, together, in the order of the water."""

    def told(fall: Fall) -> str:
        return f"{fall.is_lift} {show(fall.fall, 'length', units)}"

    groups: dict[object, list[Vessel]] = {}
    for station in stations_of(found.plan):
        if station.group != "vessels":
            continue
        vessel, levels = found.plan.vessel(station.id), found.levels[station.id]
        key = (
            vessel.floor_height,
            vessel.shape.height,
            vessel.job,
            *(show(z, "length", units) for z in (levels.low, levels.high)),
            tuple((f.start, told(f)) for f in falls if f.end == vessel.id),
            tuple((f.end, told(f)) for f in falls if f.start == vessel.id),
        )
        groups.setdefault(key, []).append(vessel)
    return list(groups.values())


def _shell(
    scene: Scene, edges: tuple[float, float], heights: tuple[float, float, float, float], id_: str
) -> None:
    left, right = edges
    rim, high, low, floor = heights
    wide = round(right - left, 1)
    scene.rects.append(Rect(left, rim, wide, round(floor - rim, 1), "inside", id_))
    scene.rects.append(Rect(left, high, wide, round(low - high, 1), "water-high", id_))
    scene.rects.append(Rect(left, low, wide, round(floor - low, 1), "water-low", id_))
    points = f"{left},{rim} {left},{floor} {right},{floor} {right},{rim}"
    scene.strokes.append(Stroke(points, 2.5, "shell", id_))
    scene.keep_clear((left - 2, rim, right + 2, floor + 2))


def _steps(
    falls: Sequence[Fall],
    edges: dict[str, tuple[float, float]],
    y: Callable[[float], float],
    units: System,
) -> Iterator[_Step]:
    """Each along at the level it leaves, then up or down at the side of where it goes."""
    lanes: dict[str, int] = {}
    for fall in falls:
        if fall.start not in edges or fall.end not in edges or fall.start == fall.end:
            continue
        onward = edges[fall.end][0] > edges[fall.start][0]
        begin = edges[fall.start][1 if onward else 0]
        side = edges[fall.end][0 if onward else 1]
        lane = lanes[fall.end] = lanes.get(fall.end, 0) + 1
        x = round(side + (-1.0 if onward else 1.0) * (6.0 + _LANE * lane), 1)
        up, down = y(fall.up), y(fall.down)
        way = ((begin, up), (x, up), (x, down), (side, down))
        yield _Step(fall, way, onward, show(abs(fall.fall), "length", units))


def _draw(scene: Scene, step: _Step) -> None:
    look = "lift-step" if step.fall.is_lift else "fall-step"
    points = " ".join(f"{x},{y}" for x, y in step.way)
    scene.strokes.append(Stroke(points, 1.8, look, step.fall.run.run.id))
    side, down = step.way[-1]
    tip = 5.0 if step.onward else -5.0
    head = f"{side - tip},{down - 3.5} {side},{down} {side - tip},{down + 3.5}"
    scene.strokes.append(Stroke(head, 1.8, look, step.fall.run.run.id))
    for (xa, ya), (xb, yb) in pairwise(step.way):
        scene.avoid((min(xa, xb) - 3, min(ya, yb) - 3, max(xa, xb) + 3, max(ya, yb) + 3))


def _tell(scene: Scene, step: _Step) -> None:
    """The figure beside the upright part, or over or under the level one, clear of every line if
    there is a place."""
    scene.write(Text(round(a, 1), round(b, 1), step.words, "axis") for a, b in _places(step))


def _places(step: _Step) -> Iterator[Point]:
    (begin, up), (x, _), (_, down), _ = step.way
    wide = _LETTER * len(step.words)
    sides = [x - 6.0 - wide, x + 6.0] if step.onward else [x + 6.0, x - 6.0 - wide]
    middle, reach = 0.5 * (up + down) + 4.0, 0.5 * abs(up - down) + 8.0
    for away in range(int(reach // 12) + 1):
        for y in {middle + 12.0 * away, middle - 12.0 * away}:
            yield from ((side, y) for side in sides)
    for share in (0.5, 0.25, 0.75, 0.1, 0.9):
        along = begin + share * (x - begin) - 0.5 * wide
        yield from ((along, up - 7.0), (along, up + 15.0))
    for aside in (16.0, 32.0, 48.0, 64.0):
        for y in (middle, middle + 24.0, middle - 24.0, middle + 48.0, middle - 48.0):
            yield from ((side + sign * aside, y) for side in sides for sign in (-1.0, 1.0))
