"""How topping up by hand is drawn in the side view: a hose over the rim, and its mark."""

from collections.abc import Mapping

from bathys.components.hand_top_up.model import HandTopUp
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    hand: HandTopUp,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """A dotted hose in over the left wall, and a mark at the level it is filled to.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    hand : HandTopUp
        The top-up
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    vessel = plan.vessel(hand.stands_in)
    left, _ = frame.edges(vessel.id)
    rim = frame.y(vessel.floor_height + vessel.shape.height)
    level = frame.y(vessel.floor_height + hand.level)
    hose = f"{left - 16},{rim - 10} {left + 12},{rim - 10} {left + 12},{rim + 8}"
    scene.strokes.append(Stroke(hose, 2.0, "carried", hand.id))
    scene.strokes.append(Stroke(f"{left},{level} {left + 16},{level}", 2.0, "mark", hand.id))
    scene.avoid((left - 16, rim - 12, left + 16, rim + 8))
    scene.number([(left - 26, rim - 10), (left - 14, rim - 26)], numbers[hand.id])
