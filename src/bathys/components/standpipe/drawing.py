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
    top = plan.vessel(outlet.stands_in).floor_height + outlet.crest_height
    return Pipe(x, frame.y(top), foot, max(0.5 * THICKEST, 0.5 * _sleeve_wide(frame, outlet)))


def _sleeve_wide(frame: Frame, outlet: Standpipe) -> float:
    """Of its sleeve in the picture; 0 without one."""
    if outlet.sleeve is None:
        return 0.0
    return max(frame.wide(outlet.sleeve.bore.inside), THICKEST + 4.0)


def _dress(frame: Frame, scene: Scene, outlet: Standpipe, middle: float, floor: float) -> None:
    """Its sleeve, its ring and its screen."""
    rim = frame.y(floor + outlet.crest_height)
    if outlet.sleeve is not None:
        half = 0.5 * _sleeve_wide(frame, outlet)
        top = rim - 8.0
        for side in (-half, half):
            ends = f"{middle + side},{frame.y(floor)} {middle + side},{top}"
            scene.strokes.append(Stroke(ends, 2.0, "bell", outlet.id))
            for row in outlet.sleeve.hole_rows:
                y = frame.y(floor + row.height)
                hole = f"{middle + side - 2},{y} {middle + side + 2},{y}"
                scene.strokes.append(Stroke(hole, 1.6, "mark", outlet.id))
        scene.avoid((middle - half - 2, top - 2, middle + half + 2, frame.y(floor)))
    if outlet.ring_height:
        foot = frame.y(floor + outlet.rim_height)
        ring = f"{middle - 7},{foot} {middle - 7},{rim} {middle + 7},{rim} {middle + 7},{foot}"
        scene.strokes.append(Stroke(ring, 1.6, "mark", outlet.id))
    if outlet.screen is not None:
        dome = (
            f"{middle - 8},{rim} {middle - 5},{rim - 7} {middle + 5},{rim - 7} {middle + 8},{rim}"
        )
        scene.strokes.append(Stroke(dome, 1.6, "mark screen", outlet.id))


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
    draw_upright(frame, scene, middle, outlet.bore.inside, floor, outlet.crest_height, outlet.id)
    _dress(frame, scene, outlet, middle, floor)
    if outlet.holes:
        y = frame.y(floor + outlet.hole_height)
        scene.strokes.append(Stroke(f"{middle - 6},{y} {middle + 6},{y}", 1.6, "mark", outlet.id))
    rim = frame.y(floor + vessel.shape.height)
    over = frame.y(floor + outlet.crest_height) - 14
    places = [
        (middle, min(over, rim - 12)),
        (middle, over),
        (middle + 20, over),
        (middle - 20, over),
    ]
    scene.number(places, numbers[outlet.id])
