"""How fish are drawn in the side view: a few outlines in the water."""

from collections.abc import Mapping

from bathys.components.cohort.model import Cohort
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System

__all__ = ["draw"]

_OUTLINE = (
    (-9.0, 0.0), (-4.0, -4.0), (3.0, -3.5), (7.0, 0.0), (11.0, -4.0), (11.0, 4.0), (7.0, 0.0),
    (3.0, 3.5), (-4.0, 4.0), (-9.0, 0.0),
)  # fmt: skip
_SPOTS = ((0.3, 0.35), (0.62, 0.5), (0.4, 0.68))


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    cohort: Cohort,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """Up to three fish, whatever their number.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    cohort : Cohort
        The fish
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    vessel = plan.vessel(cohort.stands_in)
    left, right = frame.edges(vessel.id)
    low = frame.y(vessel.floor_height)
    high = frame.y(vessel.floor_height + 0.8 * vessel.shape.height)
    place = plan.fish.index(cohort)
    for across, up in _SPOTS[: min(cohort.count, len(_SPOTS))]:
        x = left + (across + 0.06 * place) * (right - left)
        y = low + (up - 0.09 * place) * (high - low)
        points = " ".join(f"{x + dx:.1f},{y + dy:.1f}" for dx, dy in _OUTLINE)
        scene.strokes.append(Stroke(points, 1.2, "fish", cohort.id))
    x = left + (_SPOTS[0][0] + 0.06 * place) * (right - left)
    y = low + (_SPOTS[0][1] - 0.09 * place) * (high - low)
    scene.number([(x, y - 16), (x + 26, y), (x - 22, y), (x, y + 18)], numbers[cohort.id])
