"""A settler cut open through its middle, to one scale in height and width."""

from bathys.drawing.scene import Scene, Shape, Stroke, Text
from bathys.drawing.siphon_section import TALL, Scale, draw_across
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["draw_settler"]

_WIDE, _ROOM, _TALLEST = 520.0, 270.0, 300.0
_STEPS = 40  # of a wall that is not upright
_ROW = 15.0
_LEFT = 108.0


def draw_settler(vessel: Vessel, level: float, units: System) -> Scene:
    """Draw a settler, with heights over its floor.

    Parameters
    ----------
    vessel : Vessel
        The settler
    level : float
        Of its water over the floor, [m]
    units : System
        The reader's units

    Returns
    -------
    Scene
        What to draw
    """
    shell, inside = vessel.shape, vessel.settler
    scale = Scale(min(_TALLEST / shell.height, _ROOM / shell.across))
    scene = Scene(_WIDE, TALL)
    scene.shapes.append(Shape(_outline(vessel, scale, shell.height), "inside"))
    scene.shapes.append(Shape(_outline(vessel, scale, min(level, shell.height)), "water-low"))
    scene.strokes.append(Stroke(_outline(vessel, scale, shell.height), 4.0, "shell"))
    for look, way in inside.lines(shell) if inside is not None else ():
        points = " ".join(f"{scale.x(x)},{scale.y(z)}" for x, z in way)
        scene.strokes.append(Stroke(points, 5.0 if look in ("inlet", "drain") else 3.0, look))
    right = scale.x(0.5 * shell.width_at(level)) + 2.0
    y = scale.y(level)
    scene.strokes.append(Stroke(f"{right - 14.0},{y} {right + 8.0},{y}", 1.2, "mark"))
    words = f"level {show(level, 'length', units)}"
    scene.texts.append(Text(right + 12.0, y + 4.0, words, "mark-figure"))
    half = 0.5 * shell.across
    foot = scale.y(0.0) + 40.0
    across = show(shell.across, "length", units)
    draw_across(scene, scale.x(-half), scale.x(half), foot, f"{across} across")
    last = -100.0
    for name, height in sorted(inside.heights() if inside is not None else (), key=lambda r: -r[1]):
        y = scale.y(height)
        last = max(y + 4.0, last + _ROW)
        words = f"{name} {show(height, 'length', units)}"
        scene.texts.append(Text(_LEFT, round(last, 1), words, "axis", "end"))
        wall = scale.x(-0.5 * shell.width_at(min(height, shell.height)))
        points = f"{_LEFT + 4.0},{round(last - 4.0, 1)} {_LEFT + 12.0},{y} {wall - 4.0},{y}"
        scene.strokes.append(Stroke(points, 1.0, "span"))
    return scene


def _outline(vessel: Vessel, scale: Scale, top: float) -> str:
    """Wall, floor and wall, down the left side and up the right."""
    shell = vessel.shape
    marks = sorted({0.0, top, *(top * k / _STEPS for k in range(_STEPS + 1))})
    if shell.bottom <= 0.0:
        marks = [0.0, top]
    right = [(scale.x(0.5 * shell.width_at(z)), scale.y(z)) for z in marks]
    left = [(scale.x(-0.5 * shell.width_at(z)), scale.y(z)) for z in reversed(marks)]
    return " ".join(f"{x},{y}" for x, y in [*left, *right])
