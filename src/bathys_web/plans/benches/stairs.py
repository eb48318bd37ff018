"""The falls of a plan as steps: each vessel's water at its height, and what runs or is lifted from
one to the next."""

from collections.abc import Sequence

from bathys.evaluation import Evaluation, Fall
from bathys.units import System, show
from bathys_web.plans.side_view import Rect, Scene, Stroke, Text
from bathys_web.plans.stations import stations_of

__all__ = ["draw_stairs"]

_TALL, _TOP, _FOOT, _EDGE = 330.0, 26.0, 44.0, 16.0
_LEAST_WIDE, _COLUMN = 640.0, 150.0
_SHELL = 0.5  # of a column's width
_LANE = 11.0


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
        Heights to scale, vessels in the order of the water
    """
    plan = found.plan
    order = [s.id for s in stations_of(plan) if s.group == "vessels"]
    wide = max(_LEAST_WIDE, _COLUMN * len(order))
    column = (wide - 2.0 * _EDGE) / max(len(order), 1)
    scene = Scene(wide, _TALL)
    low = min(v.floor_height for v in plan.vessels)
    high = max([v.floor_height + v.shape.height for v in plan.vessels]
               + [f.run.start_head for f in falls if not f.is_lift])  # fmt: skip
    per = (_TALL - _TOP - _FOOT) / max(high - low, 0.1)

    def y(level: float) -> float:
        return round(_TALL - _FOOT - (level - low) * per, 1)

    edges = {}
    for at, id_ in enumerate(order):
        vessel, levels = plan.vessel(id_), found.levels[id_]
        middle = _EDGE + (at + 0.5) * column
        left, right = round(middle - 0.5 * _SHELL * column, 1), round(
            middle + 0.5 * _SHELL * column, 1)  # fmt: skip
        edges[id_] = (left, right)
        floor, rim = vessel.floor_height, vessel.floor_height + vessel.shape.height
        top, bottom = y(min(levels.high, rim)), y(min(levels.low, rim))
        shell = round(right - left, 1)
        scene.rects.append(Rect(left, y(rim), shell, round(y(floor) - y(rim), 1), "inside", id_))
        scene.rects.append(Rect(left, top, shell, round(bottom - top, 1), "water-high", id_))
        foot = round(y(floor) - bottom, 1)
        scene.rects.append(Rect(left, bottom, shell, foot, "water-low", id_))
        points = f"{left},{y(rim)} {left},{y(floor)} {right},{y(floor)} {right},{y(rim)}"
        scene.strokes.append(Stroke(points, 2.5, "shell", id_))
        scene.keep_clear((left, y(rim), right, y(floor)))
        name = Text(round(middle, 1), _TALL - 12.0, vessel.name, "vessel-name", "middle")
        scene.texts.append(name)
    lanes: dict[str, int] = {}
    for fall in falls:
        if fall.start in edges and fall.end in edges and fall.start != fall.end:
            _step(scene, fall, edges, lanes, y(fall.up), y(fall.down), units)
    return scene


def _step(
    scene: Scene, fall: Fall, edges: dict[str, tuple[float, float]], lanes: dict[str, int],
    up: float, down: float, units: System,
) -> None:  # fmt: skip
    """One step: along at the level it leaves, then up or down at the side of where it goes."""
    onward = edges[fall.end][0] > edges[fall.start][0]
    begin = edges[fall.start][1 if onward else 0]
    side = edges[fall.end][0 if onward else 1]
    lane = lanes[fall.end] = lanes.get(fall.end, 0) + 1
    x = round(side + (-1.0 if onward else 1.0) * (6.0 + _LANE * lane), 1)
    look = "lift-step" if fall.is_lift else "fall-step"
    points = f"{begin},{up} {x},{up} {x},{down} {side},{down}"
    scene.strokes.append(Stroke(points, 1.8, look, fall.run.run.id))
    tip = 5.0 if onward else -5.0
    head = f"{side - tip},{down - 3.5} {side},{down} {side - tip},{down + 3.5}"
    scene.strokes.append(Stroke(head, 1.8, look, fall.run.run.id))
    words = show(abs(fall.fall), "length", units)
    middle = 0.5 * (up + down)
    wide = 7.0 * len(words)
    at = x + 4.0 if not onward else x - 4.0 - wide
    scene.write([Text(round(at + dx, 1), round(middle + dy, 1), words, "axis")
                 for dx in (0.0, wide + 8.0 if onward else -wide - 8.0)
                 for dy in (4.0, 18.0, -10.0, 32.0, -24.0)])  # fmt: skip
