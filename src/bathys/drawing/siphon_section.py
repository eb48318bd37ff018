"""A siphon cut open, to one scale in height and width, with what a builder measures."""

from dataclasses import dataclass

from bathys.drawing.scene import Rect, Scene, Stroke, Text
from bathys.kinds import facet
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import Siphon
from bathys.simulation import SiphonModel
from bathys.units import System, show

__all__ = ["SPAN_STEP", "TALL", "Scale", "draw_across", "draw_siphon"]

_WIDE, TALL, _TOP, _FOOT = 520.0, 400.0, 22.0, 64.0
_BELL_LEFT = 0.5  # middle of the siphon over the picture's width
_LEVEL_STEP, SPAN_STEP = 15.0, 22.0


@dataclass(frozen=True, slots=True)
class Scale:
    """From metres over the bed's floor, and beside the siphon's middle, to the picture.

    Attributes
    ----------
    per : float
        Of the picture for each metre
    """

    per: float

    def y(self, height: float) -> float:
        """Of a height [m]."""
        return round(TALL - _FOOT - height * self.per, 1)

    def x(self, aside: float) -> float:
        """Of a distance to the right [m]."""
        return round(_BELL_LEFT * _WIDE + aside * self.per, 1)


def draw_siphon(bed: Vessel, siphon: Siphon, model: SiphonModel, units: System) -> Scene:
    """Draw a siphon in its bed.

    Parameters
    ----------
    bed : Vessel
        The bed
    siphon : Siphon
        Its siphon
    model : SiphonModel
        What it does
    units : str
        The system shown

    Returns
    -------
    Scene
        What to draw
    """
    tall = bed.shape.height
    scale = Scale((TALL - _TOP - _FOOT) / tall)
    scene = Scene(_WIDE, TALL)
    _bed(scene, scale, bed, model)
    facet(siphon, "section").draw(scene, scale, bed, siphon, model.priming_level, units)
    _levels(scene, scale, model, units)
    return scene


def _bed(scene: Scene, scale: Scale, bed: Vessel, model: SiphonModel) -> None:
    floor, rim = scale.y(0.0), scale.y(bed.shape.height)
    left, right = 118.0, _WIDE - 128.0
    wide = right - left
    scene.rects.append(Rect(left, rim, wide, floor - rim, "inside"))
    high, low = scale.y(model.priming_level), scale.y(model.intake)
    scene.rects.append(Rect(left, high, wide, round(low - high, 1), "water-high"))
    scene.rects.append(Rect(left, low, wide, round(floor - low, 1), "water-low"))
    if bed.media is not None:
        top, bottom = scale.y(bed.media.top), scale.y(bed.media.bottom)
        scene.rects.append(Rect(left, top, wide, round(bottom - top, 1), "media"))
    scene.strokes.append(Stroke(f"{left},{floor} {right},{floor}", 4.0, "shell"))
    # The bed goes on to both sides: its walls are not drawn.
    for x in (left, right):
        scene.strokes.append(Stroke(f"{x},{rim} {x},{floor}", 1.0, "mark-line"))


def draw_across(scene: Scene, left: float, right: float, y: float, words: str) -> None:
    """A span measured across, with its words at its right.

    Parameters
    ----------
    scene : Scene
        The picture
    left : float
        Left end, [picture units]
    right : float
        Right end, [picture units]
    y : float
        Height in the picture, [picture units]
    words : str
        The words
    """
    scene.strokes.append(Stroke(f"{left},{y} {right},{y}", 1.2, "span"))
    for x in (left, right):
        scene.strokes.append(Stroke(f"{x},{y - 4.0} {x},{y + 4.0}", 1.2, "span"))
    scene.write([Text(round(right + 10.0, 1), y + 4.0, words, "axis")])


def _levels(scene: Scene, scale: Scale, model: SiphonModel, units: System) -> None:
    """Heights over the floor: as built at the left, of the water at the right."""
    built = facet(model.part, "section").heights(model.part)
    last = -100.0
    for name, height in sorted(built, key=lambda r: -r[1]):
        y = scale.y(height)
        last = max(y + 4.0, last + _LEVEL_STEP)
        words = f"{name} {show(height, 'length', units)}"
        scene.texts.append(Text(108.0, round(last, 1), words, "axis", "end"))
        scene.strokes.append(Stroke(f"112,{round(last - 4.0, 1)} 118,{y} 150,{y}", 1.0, "span"))
    marks = [("starts", model.priming_level), ("breaks", model.intake)]
    last = -100.0
    for name, height in marks:
        y = scale.y(height)
        last = max(y + 4.0, last + _LEVEL_STEP)
        words = f"{name} at {show(height, 'length', units)}"
        scene.texts.append(Text(_WIDE - 118.0, round(last, 1), words, "mark-figure"))
        points = f"{_WIDE - 150.0},{y} {_WIDE - 128.0},{y} {_WIDE - 121.0},{round(last - 4.0, 1)}"
        scene.strokes.append(Stroke(points, 1.2, "mark"))
