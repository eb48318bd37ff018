"""A bell siphon cut open: guard, bell with its slots, standpipe and air tube."""

from bathys.components.bell.model import BellSiphon
from bathys.drawing.scene import Rect, Scene, Stroke
from bathys.drawing.siphon_section import SPAN_STEP, TALL, Scale, draw_across
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["draw", "heights"]


def heights(siphon: BellSiphon) -> list[tuple[str, float]]:
    """What is measured over the floor [m].

    Parameters
    ----------
    siphon : BellSiphon
        The siphon

    Returns
    -------
    list of (str, float)
        What is measured, and its height over the floor, [m]
    """
    built = [("standpipe", siphon.rim_height), ("slots", siphon.slot_height)]
    if siphon.air_tube_height:
        built.append(("air tube", siphon.air_tube_height))
    return built


def draw(
    scene: Scene, scale: Scale, bed: Vessel, siphon: BellSiphon, priming: float, units: System
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
    siphon : BellSiphon
        The siphon
    priming : float
        Level at which it starts, over the floor, [m]
    units : System
        The reader's units
    """
    bore, bell = siphon.standpipe_bore.inside, siphon.bell_bore.inside
    top = siphon.rim_height + 0.6 * bore + 0.02
    floor = scale.y(0.0)
    if siphon.guard_diameter is not None:
        left, right = scale.x(-siphon.guard_diameter / 2), scale.x(siphon.guard_diameter / 2)
        rim = scale.y(bed.shape.height)
        scene.rects.append(Rect(left, rim, round(right - left, 1), round(floor - rim, 1), "guard"))
        high = scale.y(priming)
        scene.rects.append(
            Rect(left, high, round(right - left, 1), round(floor - high, 1), "water-high")
        )
    half = bell / 2
    slots = scale.y(siphon.slot_height)
    crown = (
        f"{scale.x(-half)},{slots} {scale.x(-half)},{scale.y(top)} "
        f"{scale.x(half)},{scale.y(top)} {scale.x(half)},{slots}"
    )
    scene.strokes.append(Stroke(crown, 3.0, "bell"))
    for side in (-half, half):
        feet = f"{scale.x(side)},{slots} {scale.x(side)},{floor}"
        scene.strokes.append(Stroke(feet, 3.0, "bell-slots"))
    for side in (-bore / 2, bore / 2):
        pipe = f"{scale.x(side)},{scale.y(siphon.rim_height)} {scale.x(side)},{TALL - 8.0}"
        scene.strokes.append(Stroke(pipe, 2.4, "standpipe"))
    if siphon.air_tube_height is not None:
        x = scale.x(half) + 9.0
        mouth = scale.y(siphon.air_tube_height)
        tube = (
            f"{scale.x(0.0)},{scale.y(top)} {scale.x(0.0)},{scale.y(top) - 9.0} "
            f"{x},{scale.y(top) - 9.0} {x},{mouth}"
        )
        scene.strokes.append(Stroke(tube, 2.2, "air-tube"))
    spans = [
        ("standpipe", -bore / 2, bore / 2, bore),
        ("bell", -half, half, bell),
        (
            "guard",
            -(siphon.guard_diameter or 0.0) / 2,
            (siphon.guard_diameter or 0.0) / 2,
            siphon.guard_diameter,
        ),
    ]
    y = floor + 20.0
    for name, left, right, size in spans:
        if size:
            words = f"{name} {show(size, 'length', units)}"
            draw_across(scene, scale.x(left), scale.x(right), y, words)
            y += SPAN_STEP - 6.0
