"""A loop siphon cut open: the bed's wall, and the tube through it, up and over."""

from bathys.components.loop.model import LoopSiphon
from bathys.drawing.scene import Scene, Stroke
from bathys.drawing.siphon_section import TALL, Scale, draw_across
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["draw", "heights", "sizes"]


def heights(siphon: LoopSiphon) -> list[tuple[str, float]]:
    """What is measured over the floor [m].

    Parameters
    ----------
    siphon : LoopSiphon
        The siphon

    Returns
    -------
    list of (str, float)
        What is measured, and its height over the floor, [m]
    """
    low, high = siphon.crest_range
    built = [("crest", siphon.crest_height), ("hole", siphon.bulkhead_height)]
    if high > siphon.crest_height:
        built.insert(0, ("highest", high))
    if low < siphon.crest_height:
        built.insert(-1, ("lowest", low))
    return built


def sizes(siphon: LoopSiphon) -> list[tuple[str, float, str]]:
    """What is measured across, and how it is set at first.

    Parameters
    ----------
    siphon : LoopSiphon
        The siphon

    Returns
    -------
    list of (str, float, str)
        What it is, its value in SI or [degrees], and its quantity
    """
    return [("tube, inside", siphon.bore.inside, "length")]


def draw(
    scene: Scene, scale: Scale, bed: Vessel, siphon: LoopSiphon, priming: float, units: System
) -> None:
    """Draw it, with what is measured across.

    Parameters
    ----------
    scene : Scene
        The picture
    scale : Scale
        How metres are drawn
    bed : Vessel
        The bed
    siphon : LoopSiphon
        The siphon
    priming : float
        Level at which it starts, over the floor, [m]
    units : System
        The reader's units
    """
    bore = siphon.pipe_bore
    wall = scale.x(0.0)
    scene.strokes.append(
        Stroke(f"{wall},{scale.y(siphon.crest_height) - 30.0} {wall},{scale.y(0.0)}", 4.0, "shell")
    )
    hole, crest = scale.y(siphon.bulkhead_height), scale.y(siphon.crest_height + 0.5 * bore)
    wide = max(bore * scale.per, 6.0)
    up, down = wall + 2.2 * wide, wall + 4.6 * wide
    points = f"{wall - 12.0},{hole} {up},{hole} {up},{crest} {down},{crest} {down},{TALL - 8.0}"
    scene.strokes.append(Stroke(points, round(wide + 4.0, 1), "pipe-wall"))
    scene.strokes.append(Stroke(points, round(wide, 1), "pipe"))
    for height in {h for h in siphon.crest_range if h != siphon.crest_height}:
        y = scale.y(height + 0.5 * bore)
        scene.strokes.append(Stroke(f"{up - wide},{y} {down + wide},{y}", 1.2, "range"))
    draw_across(
        scene,
        up - 0.5 * wide,
        up + 0.5 * wide,
        scale.y(0.0) + 22.0,
        f"tube {show(bore, 'length', units)}",
    )
