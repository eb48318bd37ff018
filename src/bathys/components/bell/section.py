"""A bell siphon cut open: guard, bell with its slots, standpipe and air tube."""

from bathys.components.bell.model import BellSiphon
from bathys.drawing.scene import Rect, Scene, Stroke
from bathys.drawing.siphon_section import SPAN_STEP, TALL, Scale, draw_across
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["draw", "heights", "sizes"]


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
    foot = "slots" if siphon.slot_area is not None else "holes"
    built = [("standpipe", siphon.rim_height), (foot, siphon.foot_top)]
    return [*built, *(("air tube", tube.mouth_height) for tube in siphon.air_tubes)]


def sizes(siphon: BellSiphon) -> list[tuple[str, float, str]]:
    """What is measured across, and how it is set at first.

    Parameters
    ----------
    siphon : BellSiphon
        The siphon

    Returns
    -------
    list of (str, float, str)
        What it is, its value in SI or [degrees], and its quantity
    """
    told = [
        ("standpipe, inside", siphon.standpipe_bore.inside, "length"),
        ("bell, inside", siphon.bell_bore.inside, "length"),
        ("bell, inside from floor to cap", siphon.cap_height, "length"),
    ]
    if siphon.slot_area is not None:
        told.append(("slots at its foot, together", siphon.slot_area, "area"))
    told += [("air tube, inside", tube.bore, "length") for tube in siphon.air_tubes]
    if siphon.guard_diameter is not None:
        told.append(("guard, across", siphon.guard_diameter, "length"))
    if siphon.end_elbow is not None:
        told.append(("elbow at the end, begin at", siphon.end_elbow, "angle"))
    return told


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
    top = siphon.cap_height
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
    slots = scale.y(siphon.foot_top)
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
    for row in siphon.hole_rows:
        y, wide = scale.y(row.height), max(scale.x(row.diameter) - scale.x(0.0), 2.0)
        for side in (-half, half):
            hole = f"{scale.x(side)},{y - wide / 2} {scale.x(side)},{y + wide / 2}"
            scene.strokes.append(Stroke(hole, 5.0, "drilled"))
    for count, air in enumerate(siphon.air_tubes):
        x = scale.x(0.0) + (scale.x(half) - scale.x(0.0) + 9.0 + 7.0 * (count // 2)) * (-1) ** count
        mouth = scale.y(air.mouth_height)
        if siphon.cup_depth:
            rim, foot = scale.y(air.mouth_height + siphon.cup_depth), mouth + 3.0
            cup = f"{x - 5},{rim} {x - 5},{foot} {x + 5},{foot} {x + 5},{rim}"
            scene.strokes.append(Stroke(cup, 1.8, "air-tube"))
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
