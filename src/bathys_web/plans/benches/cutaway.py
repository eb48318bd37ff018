"""A siphon cut open, to one scale in height and width, with what a builder measures."""

from dataclasses import dataclass

from bathys.plan.overflows import BellSiphon, LoopSiphon, Siphon
from bathys.plan.vessel import Vessel
from bathys.simulation import SiphonModel
from bathys.units import System, show
from bathys_web.plans.side_view import Rect, Scene, Stroke, Text

__all__ = ["draw_siphon"]

_WIDE, _TALL, _TOP, _FOOT = 520.0, 400.0, 22.0, 64.0
_BELL_LEFT = 0.5  # middle of the siphon over the picture's width
_LEVEL_STEP, _SPAN_STEP = 15.0, 22.0


@dataclass(frozen=True, slots=True)
class _Scale:
    """From metres over the bed's floor to the picture."""

    per: float

    def y(self, height: float) -> float:
        return round(_TALL - _FOOT - height * self.per, 1)

    def x(self, aside: float) -> float:
        return round(_BELL_LEFT * _WIDE + aside * self.per, 1)


def draw_siphon(bed: Vessel, siphon: Siphon, model: SiphonModel, units: System) -> Scene:
    """Draw a siphon in its bed.

    Parameters
    ----------
    bed : Vessel
        The bed
    siphon : BellSiphon or LoopSiphon
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
    scale = _Scale((_TALL - _TOP - _FOOT) / tall)
    scene = Scene(_WIDE, _TALL)
    _bed(scene, scale, bed, model)
    if isinstance(siphon, BellSiphon):
        _bell(scene, scale, bed, siphon, model.priming_level, units)
    else:
        _loop(scene, scale, siphon, units)
    _levels(scene, scale, model, units)
    return scene


def _bed(scene: Scene, scale: _Scale, bed: Vessel, model: SiphonModel) -> None:
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


def _bell(
    scene: Scene, scale: _Scale, bed: Vessel, siphon: BellSiphon, priming: float, units: System
) -> None:
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
    crown = f"{scale.x(-half)},{slots} {scale.x(-half)},{scale.y(top)} " \
            f"{scale.x(half)},{scale.y(top)} {scale.x(half)},{slots}"  # fmt: skip
    scene.strokes.append(Stroke(crown, 3.0, "bell"))
    for side in (-half, half):
        feet = f"{scale.x(side)},{slots} {scale.x(side)},{floor}"
        scene.strokes.append(Stroke(feet, 3.0, "bell-slots"))
    for side in (-bore / 2, bore / 2):
        pipe = f"{scale.x(side)},{scale.y(siphon.rim_height)} {scale.x(side)},{_TALL - 8.0}"
        scene.strokes.append(Stroke(pipe, 2.4, "standpipe"))
    if siphon.air_tube_height is not None:
        x = scale.x(half) + 9.0
        mouth = scale.y(siphon.air_tube_height)
        tube = f"{scale.x(0.0)},{scale.y(top)} {scale.x(0.0)},{scale.y(top) - 9.0} " \
               f"{x},{scale.y(top) - 9.0} {x},{mouth}"  # fmt: skip
        scene.strokes.append(Stroke(tube, 2.2, "air-tube"))
    spans = [
        ("standpipe", -bore / 2, bore / 2, bore), ("bell", -half, half, bell),
        ("guard", -(siphon.guard_diameter or 0.0) / 2, (siphon.guard_diameter or 0.0) / 2,
         siphon.guard_diameter),
    ]  # fmt: skip
    y = floor + 20.0
    for name, left, right, size in spans:
        if size:
            words = f"{name} {show(size, 'length', units)}"
            _across(scene, scale.x(left), scale.x(right), y, words)
            y += _SPAN_STEP - 6.0


def _loop(scene: Scene, scale: _Scale, siphon: LoopSiphon, units: System) -> None:
    bore = siphon.pipe_bore
    wall = scale.x(0.0)
    scene.strokes.append(Stroke(f"{wall},{scale.y(siphon.crest_height) - 30.0} {wall},"
                                f"{scale.y(0.0)}", 4.0, "shell"))  # fmt: skip
    hole, crest = scale.y(siphon.bulkhead_height), scale.y(siphon.crest_height + 0.5 * bore)
    wide = max(bore * scale.per, 6.0)
    up, down = wall + 2.2 * wide, wall + 4.6 * wide
    points = f"{wall - 12.0},{hole} {up},{hole} {up},{crest} {down},{crest} {down},{_TALL - 8.0}"
    scene.strokes.append(Stroke(points, round(wide + 4.0, 1), "pipe-wall"))
    scene.strokes.append(Stroke(points, round(wide, 1), "pipe"))
    _across(scene, up - 0.5 * wide, up + 0.5 * wide, scale.y(0.0) + 22.0,
            f"tube {show(bore, 'length', units)}")  # fmt: skip


def _across(scene: Scene, left: float, right: float, y: float, words: str) -> None:
    """A span measured across, with its words at its right."""
    scene.strokes.append(Stroke(f"{left},{y} {right},{y}", 1.2, "span"))
    for x in (left, right):
        scene.strokes.append(Stroke(f"{x},{y - 4.0} {x},{y + 4.0}", 1.2, "span"))
    scene.write([Text(round(right + 10.0, 1), y + 4.0, words, "axis")])


def _levels(scene: Scene, scale: _Scale, model: SiphonModel, units: System) -> None:
    """Heights over the floor: as built at the left, of the water at the right."""
    built = (
        [("standpipe", model.rim), ("slots", model.part.slot_height)]
        if isinstance(model.part, BellSiphon)
        else [("crest", model.rim), ("hole", model.part.bulkhead_height)]
    )
    if isinstance(model.part, BellSiphon) and model.part.air_tube_height:
        built.append(("air tube", model.part.air_tube_height))
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
