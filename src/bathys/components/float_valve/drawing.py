"""How a float valve is drawn in the side view."""

from collections.abc import Mapping

from bathys.components.float_valve.model import FloatValve
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Shape, Stroke
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]

_ARM = 22.0
_OVER = 22.0  # how far over both rims the pipe from a drum is drawn


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    valve: FloatValve,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """A pipe in over the left wall, an arm, and a ball on the water at which it shuts.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    valve : FloatValve
        The float valve
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    vessel = plan.vessel(valve.stands_in)
    left, _ = frame.edges(vessel.id)
    rim = frame.y(vessel.floor_height + vessel.shape.height)
    level = frame.y(vessel.floor_height + valve.level)
    body = max(min(rim + 8.0, level - 4.0), rim - 6.0)
    ball = (
        f"{left + _ARM},{level - 5} {left + _ARM + 5},{level} {left + _ARM},{level + 5} "
        f"{left + _ARM - 5},{level}"
    )
    pipe = f"{left - 14},{body} {left + 8},{body}"
    scene.strokes.append(Stroke(pipe, 4.0, "supply", valve.id))
    if valve.source is not None:
        drum = plan.vessel(valve.source)
        side = frame.edges(drum.id)[0] - 6.0
        low = frame.y(drum.floor_height) - 6.0
        over = min(rim, frame.y(drum.floor_height + drum.shape.height)) - _OVER
        way = f"{side + 6},{low} {side},{low} {side},{over} {left - 14},{over} {left - 14},{body}"
        scene.strokes.append(Stroke(way, 1.8, "carried", valve.id))
    arm = f"{left + 8},{body} {left + _ARM},{level}"
    scene.strokes.append(Stroke(arm, 1.5, "supply", valve.id))
    scene.shapes.append(Shape(ball, "ball", valve.id))
    top, foot = min(body, level), max(body, level)
    scene.avoid((left - 14, top - 4, left + _ARM + 6, foot + 6))
    scene.number(
        [(left - 26, body), (left - 14, body - 18), (left + 14, body - 20)], numbers[valve.id]
    )
