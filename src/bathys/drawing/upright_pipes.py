"""Pipes that stand in a vessel, as the side view draws them, and where."""

from dataclasses import dataclass

from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.kinds import facet
from bathys.plan.model import Plan
from bathys.plan.way_out import WayOut

__all__ = ["THICKEST", "Pipe", "column_of", "draw_upright"]

THICKEST = 11.0
"""A pipe is drawn no wider than this, in picture units."""


@dataclass(frozen=True, slots=True)
class Pipe:
    """An upright stretch that others keep clear of, in picture units: its middle, its ends, and
    half of its width."""

    x: float
    top: float
    foot: float
    half: float


def column_of(frame: Frame, plan: Plan, part: WayOut) -> float:
    """Where a pipe that drains through the floor stands: side by side with the others there, from
    the right.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    part : WayOut
        The siphon or outlet

    Returns
    -------
    float
        Its place across, [picture units]
    """
    left, right = frame.edges(part.stands_in)
    own = [
        w.id
        for w in plan.ways_out
        if w.stands_in == part.stands_in and facet(w, "drawing").LEAVES == "below"
    ]
    return round(right - (0.24 + 0.2 * own.index(part.id)) * (right - left), 1)


def draw_upright(
    frame: Frame, scene: Scene, middle: float, bore: float, floor: float, rim: float, part: str
) -> None:
    """The two walls of a standpipe of a bore [m], from a floor to a rim over it [m].

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    middle : float
        Middle of the pipe across, [picture units]
    bore : float
        Inside diameter, [m]
    floor : float
        Height of the vessel's floor over the datum, [m]
    rim : float
        Height of its rim over that floor, [m]
    part : str
        Id of a part
    """
    half = max(frame.wide(bore) / 2, 2.2)
    scene.avoid((middle - half - 2, frame.y(floor + rim), middle + half + 2, frame.y(floor)))
    for side in (-half, half):
        pipe = f"{middle + side},{frame.y(floor + rim)} {middle + side},{frame.y(floor)}"
        scene.strokes.append(Stroke(pipe, 1.4, "standpipe", part))
