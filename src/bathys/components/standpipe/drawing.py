"""How a standpipe is drawn in the side view."""

from collections.abc import Mapping

from bathys.components.standpipe.model import Standpipe
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.drawing.upright_pipes import THICKEST, Pipe, column_of, draw_upright
from bathys.plan.model import Plan

__all__ = ["LEAVES", "draw", "pipe", "place"]

LEAVES = "below"


def place(frame: Frame, plan: Plan, outlet: Standpipe) -> tuple[float, float]:
    """Its foot.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : Standpipe
        The outlet

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    return column_of(frame, plan, outlet), frame.y(plan.vessel(outlet.stands_in).floor_height)


def pipe(frame: Frame, plan: Plan, outlet: Standpipe) -> Pipe:
    """From its foot to its rim.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : Standpipe
        The outlet

    Returns
    -------
    Pipe
        What others keep clear of
    """
    x, foot = place(frame, plan, outlet)
    top = plan.vessel(outlet.stands_in).floor_height + outlet.rim_height
    return Pipe(x, frame.y(top), foot, 0.5 * THICKEST)


def draw(
    frame: Frame, scene: Scene, plan: Plan, outlet: Standpipe, numbers: Mapping[str, Station]
) -> None:
    """Draw it with its number.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    outlet : Standpipe
        The outlet
    numbers : mapping of str to Station
        The number of each part in the picture
    """
    vessel = plan.vessel(outlet.stands_in)
    floor, middle = vessel.floor_height, place(frame, plan, outlet)[0]
    draw_upright(frame, scene, middle, outlet.bore.inside, floor, outlet.rim_height, outlet.id)
    if outlet.holes:
        y = frame.y(floor + outlet.hole_height)
        scene.strokes.append(Stroke(f"{middle - 6},{y} {middle + 6},{y}", 1.6, "mark", outlet.id))
    rim = frame.y(floor + vessel.shape.height)
    over = frame.y(floor + outlet.rim_height) - 14
    places = [
        (middle, min(over, rim - 12)),
        (middle, over),
        (middle + 20, over),
        (middle - 20, over),
    ]
    scene.number(places, numbers[outlet.id])
