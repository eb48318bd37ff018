"""How a loop siphon is drawn in the side view: out through the wall, up outside, and over."""

from collections.abc import Mapping

from bathys.components.loop.model import LoopSiphon
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.stations import Station
from bathys.drawing.upright_pipes import Pipe
from bathys.plan.model import Plan

__all__ = ["LEAVES", "draw", "pipe", "place"]

LEAVES = "outside"

_ASIDE = 16.0  # how far it stands outside its bed


def place(frame: Frame, plan: Plan, siphon: LoopSiphon) -> tuple[float, float]:
    """The top of its loop.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    siphon : LoopSiphon
        The siphon

    Returns
    -------
    (float, float)
        Across and down, in picture units
    """
    right = frame.edges(siphon.stands_in)[1]
    floor = plan.vessel(siphon.stands_in).floor_height
    middle = floor + siphon.crest_height + 0.5 * siphon.pipe_bore
    return round(right + _ASIDE, 1), frame.y(middle)


def pipe(frame: Frame, plan: Plan, siphon: LoopSiphon) -> Pipe | None:
    """None that others must keep clear of.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    plan : Plan
        The plan
    siphon : LoopSiphon
        The siphon

    Returns
    -------
    Pipe or None
        What others keep clear of; none
    """
    return None


def draw(
    frame: Frame, scene: Scene, plan: Plan, siphon: LoopSiphon, numbers: Mapping[str, Station]
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
    siphon : LoopSiphon
        The siphon
    numbers : mapping of str to Station
        The number of each part in the picture
    """
    floor = plan.vessel(siphon.stands_in).floor_height
    right = frame.edges(siphon.stands_in)[1]
    x, crest = place(frame, plan, siphon)
    hole, up = frame.y(floor + siphon.bulkhead_height), right + 0.5 * _ASIDE
    wide = max(frame.wide(siphon.pipe_bore), 3.0)
    points = f"{right - 6},{hole} {up},{hole} {up},{crest} {x},{crest}"
    scene.strokes.append(Stroke(points, round(wide + 2.5, 1), "pipe-wall", siphon.id))
    scene.strokes.append(Stroke(points, wide, "pipe", siphon.id))
    places = [(x, crest - 16), (x + 18, crest - 8), (right - 16, crest - 16)]
    scene.number(places, numbers[siphon.id])
