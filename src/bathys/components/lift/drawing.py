"""How a solids lift is drawn in the side view: up from near the floor, over its crest."""

from collections.abc import Mapping

from bathys.components.lift.model import SolidsLift
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.drawing.upright_pipes import THICKEST, Pipe
from bathys.plan.model import Plan

__all__ = ["LEAVES", "draw", "pipe", "place"]

LEAVES = "sideways"


def place(frame: Frame, plan: Plan, outlet: SolidsLift) -> tuple[float, float]:
    """Its crest, by the right wall.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : SolidsLift
        The outlet

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    left, right = frame.edges(outlet.stands_in)
    floor = plan.vessel(outlet.stands_in).floor_height
    aside = max(0.1 * (right - left), 8.0)
    return round(right - aside, 1), frame.y(floor + outlet.crest_height)


def pipe(frame: Frame, plan: Plan, outlet: SolidsLift) -> Pipe:
    """From its intake to its crest.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    outlet : SolidsLift
        The outlet

    Returns
    -------
    Pipe
        What others keep clear of
    """
    x, crest = place(frame, plan, outlet)
    foot = plan.vessel(outlet.stands_in).floor_height + outlet.intake_height
    return Pipe(x, crest, frame.y(foot), 0.5 * THICKEST)


def draw(
    frame: Frame, scene: Scene, plan: Plan, outlet: SolidsLift, numbers: Mapping[str, Station]
) -> None:
    """Draw it with its number, its top open if it has an open tee.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    outlet : SolidsLift
        The outlet
    numbers : mapping of str to Station
        The number of each part in the picture
    """
    floor = plan.vessel(outlet.stands_in).floor_height
    x, crest = place(frame, plan, outlet)
    foot = frame.y(floor + outlet.intake_height)
    top = crest - 16 if outlet.vented else crest
    wide = max(frame.wide(outlet.bore.inside), 4.0)
    scene.avoid((x - 0.5 * wide - 2, top, x + 0.5 * wide + 2, foot))
    points = f"{x},{foot} {x},{top}"
    scene.strokes.append(Stroke(points, round(wide + 2.5, 1), "pipe-wall", outlet.id))
    scene.strokes.append(Stroke(points, wide, "pipe", outlet.id))
    places = [
        (x - 18, crest + 20),
        (x - 18, (foot + crest) / 2),
        (x - 18, crest - 14),
        (x, top - 14),
    ]
    scene.number(places, numbers[outlet.id])
