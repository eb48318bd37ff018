"""How a weir is drawn in the side view: its edge in the right wall."""

from collections.abc import Mapping

from bathys.components.weir.model import Weir
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.drawing.upright_pipes import Pipe
from bathys.plan.model import Plan

__all__ = ["LEAVES", "draw", "pipe", "place"]

LEAVES = "sideways"

_DEEP, _APART = 9.0, 8.0


def place(frame: Frame, plan: Plan, outlet: Weir) -> tuple[float, float]:
    """In the right wall, at its edge.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : Weir
        The outlet

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    floor = plan.vessel(outlet.stands_in).floor_height
    peers = [o.id for o in plan.outlets if o.stands_in == outlet.stands_in and o.kind == "weir"]
    down = _APART * peers.index(outlet.id)  # so that their drains do not lie on each other
    return frame.edges(outlet.stands_in)[1], round(frame.y(floor + outlet.crest_height) + down, 1)


def pipe(frame: Frame, plan: Plan, outlet: Weir) -> Pipe | None:
    """None stands in the vessel.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : Weir
        The outlet

    Returns
    -------
    Pipe or None
        What others keep clear of; none
    """
    return None


def draw(
    frame: Frame, scene: Scene, plan: Plan, outlet: Weir, numbers: Mapping[str, Station]
) -> None:
    """A notch open at the top, or a straight edge, with its number.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    outlet : Weir
        The outlet
    numbers : mapping of str to Station
        The number of each part in the picture
    """
    x, y = place(frame, plan, outlet)
    if outlet.edge == "notch":
        points = f"{x - 6},{y - _DEEP} {x},{y} {x + 6},{y - _DEEP}"
    else:
        points = f"{x - 6},{y - _DEEP} {x - 6},{y} {x + 6},{y} {x + 6},{y - _DEEP}"
    scene.strokes.append(Stroke(points, 2.2, "mark weir", outlet.id))
    scene.number([(x - 18, y), (x + 18, y - 14), (x + 18, y + 14)], numbers[outlet.id])
