"""How a purge is drawn in the side view."""

from collections.abc import Mapping

from bathys.components.purge.model import SludgePurge
from bathys.drawing.carried import draw_carried
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    purge: SludgePurge,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """A dotted line from the settler to where its sludge goes.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    purge : SludgePurge
        The part
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    first = 2 * plan.transfers.index(purge)
    for k, move in enumerate(m for m in plan.moves if m.id == purge.id):
        station = numbers[purge.id] if k == 0 else None
        draw_carried(frame, scene, plan, move, first + k, station, units)
