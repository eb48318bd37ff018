"""How an air pump is drawn in the side view: a box over the vessels, and lines to its stones."""

from collections.abc import Mapping

from bathys.components.air_pump.model import AirPump
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]

_OVER, _HALF, _ASIDE = 26.0, 9.0, 60.0


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    pump: AirPump,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """A box over the first of its vessels, or over the first vessel if it has no stone.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    pump : AirPump
        The pump
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    own = [a for a in plan.air if a.fed_by == pump.id]
    vessels = [plan.vessel(a.stands_in) for a in own] or [plan.vessels[0]]
    tops = [frame.y(v.floor_height + v.shape.height) for v in vessels]
    left, right = frame.edges(vessels[0].id)
    place = plan.air_pumps.index(pump)
    x = round(left + 0.6 * (right - left) + _ASIDE * place, 1)
    y = round(max(min(tops) - _OVER, 14.0), 1)
    box = (
        f"{x - _HALF},{y - _HALF} {x + _HALF},{y - _HALF} {x + _HALF},{y + _HALF} "
        f"{x - _HALF},{y + _HALF} {x - _HALF},{y - _HALF} {x + _HALF},{y + _HALF}"
    )
    scene.strokes.append(Stroke(box, 1.8, "filter", pump.id))
    scene.avoid((x - _HALF - 2, y - _HALF - 2, x + _HALF + 2, y + _HALF + 2))
    for stone in own:
        vessel = plan.vessel(stone.stands_in)
        near, far = frame.edges(vessel.id)
        own_place = sum(a.stands_in == vessel.id for a in plan.air[: plan.air.index(stone)])
        at = round(near + (0.78 - 0.16 * own_place) * (far - near), 1)
        foot = round(frame.y(vessel.floor_height + stone.mouth), 1)
        line = f"{x},{y + _HALF} {at},{y + _HALF} {at},{foot}"
        scene.strokes.append(Stroke(line, 1.2, "air-line", pump.id))
    scene.number([(x + 24, y), (x - 24, y), (x, y - 20), (x + 24, y - 16)], numbers[pump.id])
