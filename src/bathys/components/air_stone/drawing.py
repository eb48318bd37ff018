"""How an air stone is drawn in the side view: a stone near the floor, and bubbles."""

from collections.abc import Mapping

from bathys.components.air_stone.model import AirStone
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]

_BUBBLES = ((-4.0, 10.0), (3.0, 18.0), (-2.0, 27.0), (5.0, 36.0))


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    stone: AirStone,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """A short bar and four rings over it.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    stone : AirStone
        The stone
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    vessel = plan.vessel(stone.stands_in)
    left, right = frame.edges(vessel.id)
    place = sum(a.stands_in == vessel.id for a in plan.air[: plan.air.index(stone)])
    x = round(left + (0.78 - 0.16 * place) * (right - left), 1)
    y = frame.y(vessel.floor_height + stone.height)
    scene.strokes.append(Stroke(f"{x - 6},{y} {x + 6},{y}", 4.0, "stone-bar", stone.id))
    for dx, dy in _BUBBLES:
        ring = " ".join(
            f"{x + dx + a:.1f},{y - dy + b:.1f}"
            for a, b in ((0, -2.2), (2.2, 0), (0, 2.2), (-2.2, 0), (0, -2.2))
        )
        scene.strokes.append(Stroke(ring, 1.0, "bubble", stone.id))
    scene.avoid((x - 8, y - 40, x + 8, y + 4))
    scene.number([(x + 20, y - 6), (x - 20, y - 6), (x + 20, y - 24)], numbers[stone.id])
