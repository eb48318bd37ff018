"""How a bell siphon is drawn in the side view: guard, bell, standpipe and air tube."""

from collections.abc import Mapping

from bathys.components.bell.model import BellSiphon
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Rect, Scene, Stroke
from bathys.drawing.stations import Station
from bathys.drawing.upright_pipes import Pipe, column_of, draw_upright
from bathys.plan.model import Plan

__all__ = ["LEAVES", "draw", "pipe", "place"]

LEAVES = "below"


def place(frame: Frame, plan: Plan, siphon: BellSiphon) -> tuple[float, float]:
    """The foot of its standpipe.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    siphon : BellSiphon
        The siphon

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    return column_of(frame, plan, siphon), frame.y(plan.vessel(siphon.stands_in).floor_height)


def pipe(frame: Frame, plan: Plan, siphon: BellSiphon) -> Pipe:
    """As wide as its bell.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    siphon : BellSiphon
        The siphon

    Returns
    -------
    Pipe
        What others keep clear of
    """
    x, foot = place(frame, plan, siphon)
    top = plan.vessel(siphon.stands_in).floor_height + siphon.rim_height
    return Pipe(x, frame.y(top), foot, _half(frame, siphon))


def _half(frame: Frame, siphon: BellSiphon) -> float:
    return max(frame.wide(siphon.bell_bore.inside) / 2, 5.0)


def draw(
    frame: Frame, scene: Scene, plan: Plan, siphon: BellSiphon, numbers: Mapping[str, Station]
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
    siphon : BellSiphon
        The siphon
    numbers : mapping of str to Station
        The number of each part in the picture
    """
    vessel = plan.vessel(siphon.stands_in)
    floor, middle = vessel.floor_height, place(frame, plan, siphon)[0]
    bore = siphon.standpipe_bore.inside
    top = floor + siphon.cap_height
    if siphon.guard_diameter:
        half = frame.wide(siphon.guard_diameter) / 2
        tall = vessel.shape.height * 0.96
        scene.rects.append(
            Rect(
                middle - half, frame.y(floor + tall), 2 * half, frame.tall(tall), "guard", siphon.id
            )
        )
    half = _half(frame, siphon)
    slots, crown = frame.y(floor + siphon.foot_top), frame.y(top)
    scene.avoid((middle - half - 2, crown - 2, middle + half + 2, slots))
    points = (
        f"{middle - half},{slots} {middle - half},{crown} {middle + half},{crown} "
        f"{middle + half},{slots}"
    )
    scene.strokes.append(Stroke(points, 2.2, "bell", siphon.id))
    draw_upright(frame, scene, middle, bore, floor, siphon.rim_height, siphon.id)
    for count, air in enumerate(siphon.air_tubes):
        x = middle + (half + 4 + 3 * (count // 2)) * (-1) ** count
        tube = (
            f"{middle},{crown} {middle},{crown - 4} {x},{crown - 4} "
            f"{x},{frame.y(floor + air.mouth_height)}"
        )
        scene.strokes.append(Stroke(tube, 1.5, "air-tube", siphon.id))
    bed_top = frame.y(floor + vessel.shape.height)
    y = min(crown - 16, bed_top - 12)
    scene.number([(middle, y), (middle + 22, y), (middle - 22, y)], numbers[siphon.id])
