"""Draw a plan: ground and rule, shells, what stands in them, pipes, and labels that keep apart."""

from collections.abc import Iterator, Mapping
from typing import Any

from bathys.drawing.fittings import draw_fittings
from bathys.drawing.frame import BOTTOM, HEIGHT, LEFT, TOP, Frame
from bathys.drawing.grade import draw_grades
from bathys.drawing.labels import name_vessels, write_levels
from bathys.drawing.pipes import draw_pipes, lay_pipes, write_bores
from bathys.drawing.scene import Rect, Scene, Shape, Stroke, Text, Water
from bathys.drawing.stations import Station
from bathys.evaluation import Evaluation
from bathys.kinds import facet
from bathys.plan.model import Plan
from bathys.plan.vessel import Vessel
from bathys.units import System, entry, own_system, show, unit_of

__all__ = ["draw_side_view"]

_WELL_OUT = 2400.0  # ground and contours run on past the picture's edge
_STEPS = {"metric": (0.1, 0.2, 0.5, 1.0, 2.0, 5.0), "us": (0.1524, 0.3048, 0.6096, 1.524, 3.048)}
_LEAST_STEP = 30.0
_WALL_STEPS = 16  # of a wall that is not upright


def draw_side_view(
    evaluation: Evaluation,
    stations: list[Station],
    units: System,
    pins: Mapping[str, str] | None = None,
    like: Plan | None = None,
) -> Scene:
    """Draw a plan.

    Parameters
    ----------
    evaluation : Evaluation
        Its numbers
    stations : list of Station
        Its stations, for the badges
    units : {"metric", "us"}
        The system shown
    pins : mapping, optional
        Gravest finding of each part that has one
    like : Plan, optional
        A plan whose frame is used, so that both can lie over each other

    Returns
    -------
    Scene
        What to draw
    """
    plan = evaluation.plan
    frame = Frame(plan, like)
    scene = Scene(
        frame.width, HEIGHT, frame.y(0.0), frame.is_wide, round(frame.across / frame.up, 2)
    )
    step = 0.01 if own_system(units, "length") == "metric" else 0.0127
    scene.step, scene.beside = round(frame.up * step, 3), round(frame.across * 5.0 * step, 3)
    scene.zero, scene.up = frame.y(0.0), round(frame.up, 3)
    numbers = {s.id: s for s in stations}
    _rule(frame, scene, units, plan.datum)
    for vessel in sorted(plan.vessels, key=lambda v: v.within is not None):
        if vessel.within is None:
            _stand(frame, scene, vessel)
        _shell(frame, scene, evaluation, vessel)
        _insides(frame, scene, vessel)
    ways = lay_pipes(frame, scene, evaluation)
    draw_fittings(frame, scene, plan, numbers)
    name_vessels(frame, scene, plan.vessels, numbers, units)
    draw_pipes(frame, scene, evaluation, numbers, ways)
    for supply in _beside_pipes(plan):
        facet(supply, "drawing").draw(frame, scene, plan, supply, numbers, units)
    write_levels(frame, scene, evaluation, units)
    write_bores(scene, plan, ways, units)
    scene.grades = draw_grades(frame, evaluation, ways)
    scene.summary = _summary(evaluation, units)
    known = pins or {}
    scene.badges = [b._replace(pin=known.get(b.station.id, "")) for b in scene.badges]
    return scene


def _summary(evaluation: Evaluation, units: System) -> str:
    words = []
    for result in evaluation.vessels.values():
        floor = result.vessel.floor_height
        low, high = (
            show(z - floor, "length", units) for z in (result.levels.low, result.levels.high)
        )
        told = f"water from {low} to {high} deep" if low != high else f"water {low} deep"
        over = show(floor, "length", units)
        words.append(f"{result.vessel.name}: floor {over} over {evaluation.plan.datum}, {told}.")
    return " ".join(words)


def _beside_pipes(plan: Plan) -> Iterator[Any]:
    """Parts that are neither vessels nor pipes nor stand in them as pipes do."""
    for group in ("top_ups", "transfers", "fish", "air", "air_pumps", "appliances"):
        yield from getattr(plan, group)


_LID = 0.05  # a smaller share covered is no lid


def _rule(frame: Frame, scene: Scene, units: System, datum: str) -> None:
    """The height rule at the left edge."""
    steps = _STEPS[own_system(units, "length")]
    step = next((s for s in steps if s * frame.up >= _LEAST_STEP), steps[-1])
    x = LEFT - 22
    count = int((frame.high - frame.low) / step) + 1
    first = int(frame.low // step)
    for k in range(first, first + count + 1):
        z = k * step
        y = frame.y(z)
        if TOP - 10 <= y <= HEIGHT - BOTTOM + 4:
            scene.strokes.append(Stroke(f"{x - 6},{y} {x},{y}", 1.0, "rule"))
            words = entry(round(z, 6), "length", units)
            scene.write([Text(x - 9, y + 4, words, "rule-figure", "end")])
            scene.strokes.append(Stroke(f"{x},{y} {_WELL_OUT},{y}", 0.5, "contour"))
    scene.strokes.append(Stroke(f"{x},{TOP - 10} {x},{HEIGHT - BOTTOM + 4}", 1.2, "rule"))
    unit = unit_of("length", units)
    scene.write([Text(8, TOP - 16, f"heights over {datum} ({unit})", "rule-name")])


def _stand(frame: Frame, scene: Scene, vessel: Vessel) -> None:
    """Legs under a raised shell."""
    if vessel.floor_height <= 0.05:
        return
    left, right = frame.edges(vessel.id)
    for x in (left + 4.0, right - 4.0):
        points = f"{x},{frame.y(vessel.floor_height)} {x},{frame.y(0.0)}"
        scene.strokes.append(Stroke(points, 7, "stand"))


def _insides(frame: Frame, scene: Scene, vessel: Vessel) -> None:
    """A cone set in, plates, and a lid."""
    left, right = frame.edges(vessel.id)
    floor, rim = vessel.floor_height, vessel.floor_height + vessel.shape.height
    middle = 0.5 * (left + right)
    cone, plates = vessel.false_cone, vessel.baffles
    if cone is not None:
        half, top = 0.5 * frame.wide(cone.foot_diameter), frame.y(floor + cone.cone_height)
        for wall, foot in ((left, middle - half), (right, middle + half)):
            points = f"{wall},{top} {foot:.1f},{frame.y(floor)}"
            scene.strokes.append(Stroke(points, 2.0, "false-cone", vessel.id))
    if plates is not None:
        for number in range(plates.count):
            x = left + (number + 1) * (right - left) / (plates.count + 1)
            points = f"{x:.1f},{frame.y(floor + plates.gap)} {x:.1f},{frame.y(rim) + 6.0}"
            scene.strokes.append(Stroke(points, 1.8, "baffle", vessel.id))
    if vessel.settler is not None:
        for look, way in vessel.settler.lines(vessel.shape):
            points = " ".join(
                f"{middle + frame.across * x:.1f},{frame.y(floor + z)}" for x, z in way
            )
            scene.strokes.append(Stroke(points, 1.8, look, vessel.id))
    if vessel.covered >= _LID:
        y = frame.y(rim) - 3.0
        lid = f"{left - 3},{y} {left + vessel.covered * (right - left) + 3:.1f},{y}"
        scene.strokes.append(Stroke(lid, 2.4, "lid", vessel.id))


def _shell(frame: Frame, scene: Scene, evaluation: Evaluation, vessel: Vessel) -> None:
    left, right = frame.edges(vessel.id)
    wide = round(right - left, 1)
    floor, rim = vessel.floor_height, vessel.floor_height + vessel.shape.height

    def band(low: float, high: float, look: str) -> None:
        if high <= low:
            return
        if _tapers(vessel, low):
            scene.shapes.append(Shape(_outline(frame, vessel, low, high), look, vessel.id))
            return
        tall = frame.tall(high - low)
        scene.rects.append(Rect(left, frame.y(high), wide, tall, look, vessel.id))

    band(floor, rim, "inside")
    levels = evaluation.levels[vessel.id]
    high = min(levels.high, rim)
    band(floor, min(levels.low, high), "water-low")
    band(max(min(levels.low, high), floor), high, "water-high")
    if vessel.media:
        band(floor + vessel.media.bottom, floor + vessel.media.top, "media")
    if vessel.use.has_rafts:
        scene.strokes.append(
            Stroke(f"{left + 3},{frame.y(high)} {right - 3},{frame.y(high)}", 5, "raft", vessel.id)
        )
    shell = _outline(frame, vessel, floor, rim)
    scene.strokes.append(Stroke(shell, 3.5, "shell", vessel.id))
    outline = shell if _tapers(vessel, floor) else ""
    scene.waters.append(Water(left, wide, floor, vessel.id, outline))
    scene.handles.append(
        Rect(left, frame.y(rim), wide, frame.tall(rim - floor), "handle", vessel.id)
    )
    for wall in (left, right):
        scene.keep_clear((wall - 1.5, frame.y(rim), wall + 1.5, frame.y(floor)))
    scene.avoid((left, frame.y(floor) - 2, right, frame.y(floor) + 2))


def _tapers(vessel: Vessel, level: float) -> bool:
    """Whether the shell grows wider above a level."""
    return bool(level - vessel.floor_height < vessel.shape.bottom)


def _outline(frame: Frame, vessel: Vessel, low: float, high: float) -> str:
    """Wall, bottom and wall between two levels, down the left side and up the right."""
    middle, floor = frame.middle(vessel.id), vessel.floor_height
    marks = [low, high]
    if _tapers(vessel, low):
        marks = [low + (high - low) * k / _WALL_STEPS for k in range(_WALL_STEPS + 1)]
        bottom = vessel.shape.bottom
        marks = sorted({*marks, *([floor + bottom] if low < floor + bottom < high else [])})
    right = [(middle + frame.wide(vessel.shape.width_at(z - floor)) / 2, frame.y(z)) for z in marks]
    left = [(2.0 * middle - x, y) for x, y in reversed(right)]
    return " ".join(f"{x:.1f},{y}" for x, y in [*left, *right])
