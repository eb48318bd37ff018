"""How something plugged in is drawn: a heater in the water, a lamp or a box over its vessel."""

from collections.abc import Mapping

from bathys.components.appliance.model import Appliance
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]

_OVER, _WIDE = 22.0, 26.0
_Shape = tuple[tuple[float, float], ...]
_COIL: _Shape = ((-8, 0), (-8, 6), (-4, 6), (-4, 0), (0, 0), (0, 6), (4, 6), (4, 0), (8, 0), (8, 6))
_LAMP: _Shape = ((-_WIDE, 0), (_WIDE, 0), (_WIDE - 6, 6), (6 - _WIDE, 6), (-_WIDE, 0))
_BOX: _Shape = ((-8, -6), (8, -6), (8, 6), (-8, 6), (-8, -6), (8, 6))


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    part: Appliance,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """A coil near the floor for a heater, a shade over the rim for a lamp, a box for the rest.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    part : Appliance
        What is plugged in
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    vessel = plan.vessel(part.stands_in)
    left, right = frame.edges(vessel.id)
    before = [a for a in plan.appliances if a.stands_in == vessel.id]
    place = before.index(part)
    rim = frame.y(vessel.floor_height + vessel.shape.height)
    if part.use == "heater":
        shape, y = _COIL, frame.y(vessel.floor_height + 0.15 * vessel.shape.height)
    else:
        shape, y = (_LAMP if part.use == "lamp" else _BOX), max(rim - _OVER, 10.0)
    x = round(left + (0.3 + 0.18 * place) * (right - left), 1)
    points = " ".join(f"{x + dx:.1f},{y + dy:.1f}" for dx, dy in shape)
    scene.strokes.append(Stroke(points, 1.8, "filter", part.id))
    wide = max(abs(dx) for dx, _ in shape) + 2.0
    scene.avoid((x - wide, y - 8, x + wide, y + 8))
    aside = wide + 12.0
    scene.number([(x + aside, y), (x - aside, y), (x, y - 18), (x, y + 20)], numbers[part.id])
