"""How drilled holes are drawn in the side view: a mark across the wall."""

from collections.abc import Mapping

from bathys.components.holes.model import DrilledHoles
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.drawing.upright_pipes import Pipe
from bathys.plan.model import Plan

__all__ = ["LEAVES", "draw", "pipe", "place"]

LEAVES = "wall"


def place(frame: Frame, plan: Plan, outlet: DrilledHoles) -> tuple[float, float]:
    """In the right wall, at their height.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : DrilledHoles
        The outlet

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    floor = plan.vessel(outlet.stands_in).floor_height
    return frame.edges(outlet.stands_in)[1], frame.y(floor + outlet.height)


def pipe(frame: Frame, plan: Plan, outlet: DrilledHoles) -> Pipe | None:
    """None stands in the vessel.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : DrilledHoles
        The outlet

    Returns
    -------
    Pipe or None
        What others keep clear of; none
    """
    return None


def draw(
    frame: Frame, scene: Scene, plan: Plan, outlet: DrilledHoles, numbers: Mapping[str, Station]
) -> None:
    """Draw them with their number.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    outlet : DrilledHoles
        The outlet
    numbers : mapping of str to Station
        The number of each part in the picture
    """
    x, y = place(frame, plan, outlet)
    scene.strokes.append(Stroke(f"{x - 5},{y} {x + 5},{y}", 3.0, "mark", outlet.id))
    scene.number([(x - 18, y), (x + 18, y - 14), (x + 18, y + 14)], numbers[outlet.id])
