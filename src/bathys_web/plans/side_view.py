"""The side view: shells cut open to true scale, with the water, the pipes and the siphons in them.

It draws what the engine has worked out and works out nothing itself. Heights and widths share one
scale; only the place of a shell from left to right is free.
"""

from dataclasses import dataclass, field

from bathys.evaluation import Evaluation
from bathys.plan.model import BellSiphon, Box, Plan, Run, Vessel
from bathys.units import System, entry, show, unit_of
from bathys_web.plans.stations import Station

__all__ = ["Scene", "draw_side_view"]

WIDTH, HEIGHT = 760.0, 470.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 78.0, 132.0, 34.0, 34.0
_GAP = 0.35  # between vessels that the plan does not place [m]
_LABEL_STEP = 15.0
_WELL_OUT = 1200.0  # ground and contours run on past the picture's edge
_STEPS = {"metric": (0.1, 0.2, 0.5, 1.0, 2.0, 5.0), "us": (0.1524, 0.3048, 0.6096, 1.524, 3.048)}


@dataclass(frozen=True, slots=True)
class Rect:
    """A rectangle in picture units, with what it shows."""

    x: float
    y: float
    width: float
    height: float
    look: str
    part: str = ""


@dataclass(frozen=True, slots=True)
class Stroke:
    """A line through points, with what it shows."""

    points: str
    width: float
    look: str
    part: str = ""


@dataclass(frozen=True, slots=True)
class Text:
    """Words at a place."""

    x: float
    y: float
    words: str
    look: str
    anchor: str = "start"


@dataclass(frozen=True, slots=True)
class Badge:
    """A station's number, which opens the part."""

    x: float
    y: float
    station: Station


@dataclass
class Scene:
    """Everything to draw, in picture units."""

    width: float = WIDTH
    height: float = HEIGHT
    ground: float = 0.0
    rects: list[Rect] = field(default_factory=list)
    strokes: list[Stroke] = field(default_factory=list)
    texts: list[Text] = field(default_factory=list)
    badges: list[Badge] = field(default_factory=list)
    summary: str = ""


class _Frame:
    """Where metres land in the picture."""

    def __init__(self, plan: Plan) -> None:
        self.spans = _spans(plan)
        floors = [v.floor_height for v in plan.vessels]
        tops = [v.floor_height + v.shape.height for v in plan.vessels]
        ends = [e for r in plan.runs if (e := plan.elevation(r.end)) is not None]
        self.low = min([0.0, *floors]) - 0.08
        self.high = max([*tops, *ends]) + 0.15
        self.left = min(a for a, _ in self.spans.values())
        right = max(b for _, b in self.spans.values())
        across = (WIDTH - _LEFT - _RIGHT) / max(right - self.left, 0.1)
        up = (HEIGHT - _TOP - _BOTTOM) / (self.high - self.low)
        self.scale = min(across, up)
        self.shift = _LEFT
        self.width = round(_LEFT + (right - self.left) * self.scale + _RIGHT, 1)

    def x(self, along: float) -> float:
        return round(self.shift + (along - self.left) * self.scale, 1)

    def y(self, elevation: float) -> float:
        return round(HEIGHT - _BOTTOM - (elevation - self.low) * self.scale, 1)

    def size(self, length: float) -> float:
        return round(length * self.scale, 1)


def _wide(vessel: Vessel) -> float:
    shape = vessel.shape
    return shape.length if isinstance(shape, Box) else shape.diameter


def _spans(plan: Plan) -> dict[str, tuple[float, float]]:
    spans: dict[str, tuple[float, float]] = {}
    edge = 0.0
    for vessel in plan.vessels:
        left = edge if vessel.along is None else vessel.along
        spans[vessel.id] = (left, left + _wide(vessel))
        edge = max(edge, spans[vessel.id][1] + _GAP)
    return spans


def draw_side_view(evaluation: Evaluation, stations: list[Station], units: System) -> Scene:
    """Draw a plan.

    Parameters
    ----------
    evaluation : Evaluation
        Its numbers
    stations : list of Station
        Its stations, for the badges
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    Scene
        What to draw
    """
    plan = evaluation.plan
    frame, scene = _Frame(plan), Scene()
    numbers = {s.id: s for s in stations}
    scene.width, scene.ground = frame.width, frame.y(0.0)
    _rule(frame, scene, units, plan.datum)
    for vessel in plan.vessels:
        _stand(frame, scene, vessel)
    for vessel in plan.vessels:
        _vessel(frame, scene, evaluation, vessel, numbers, units)
    for siphon in plan.siphons:
        _bell(frame, scene, plan, siphon, numbers)
    for run in plan.runs:
        _run(frame, scene, plan, run, numbers)
    for pump in plan.pumps:
        x, y = _pump_place(frame, plan, pump.id)
        scene.rects.append(Rect(x - 9, y - 8, 22, 16, "pump", pump.id))
        scene.badges.append(Badge(x + 27, y, numbers[pump.id]))
    scene.summary = _summary(evaluation, units)
    return scene


def _summary(evaluation: Evaluation, units: System) -> str:
    words = []
    for vessel in evaluation.plan.vessels:
        levels = evaluation.levels.get(vessel.id)
        told = ""
        if levels:
            low, high = (show(z - vessel.floor_height, "length", units)
                         for z in (levels.low, levels.high))  # fmt: skip
            told = f", water from {low} to {high} deep"
        floor = show(vessel.floor_height, "length", units)
        words.append(f"{vessel.name}: floor {floor} over {evaluation.plan.datum}{told}.")
    return " ".join(words)


def _rule(frame: _Frame, scene: Scene, units: System, datum: str) -> None:
    """The height rule at the left edge."""
    step = next((s for s in _STEPS[units] if s * frame.scale >= 30), _STEPS[units][-1])
    x = _LEFT - 22
    count = int((frame.high - frame.low) / step) + 1
    first = int(frame.low // step)
    for k in range(first, first + count + 1):
        z = k * step
        y = frame.y(z)
        if _TOP - 10 <= y <= HEIGHT - _BOTTOM + 4:
            scene.strokes.append(Stroke(f"{x - 6},{y} {x},{y}", 1.0, "rule"))
            words = entry(round(z, 6), "length", units)
            scene.texts.append(Text(x - 9, y + 4, words, "rule-figure", "end"))
            scene.strokes.append(Stroke(f"{x},{y} {_WELL_OUT},{y}", 0.5, "contour"))
    scene.strokes.append(Stroke(f"{x},{_TOP - 10} {x},{HEIGHT - _BOTTOM + 4}", 1.2, "rule"))
    unit = unit_of("length", units)
    scene.texts.append(Text(8, _TOP - 16, f"heights in {unit} over {datum}", "rule-name"))


def _stand(frame: _Frame, scene: Scene, vessel: Vessel) -> None:
    """Legs under a raised shell."""
    if vessel.floor_height <= 0.05:
        return
    left, right = frame.spans[vessel.id]
    for along in (left + 0.05, right - 0.05):
        x = frame.x(along)
        points = f"{x},{frame.y(vessel.floor_height)} {x},{frame.y(0.0)}"
        scene.strokes.append(Stroke(points, 7, "stand"))


def _vessel(
    frame: _Frame, scene: Scene, evaluation: Evaluation, vessel: Vessel,
    numbers: dict[str, Station], units: System,
) -> None:  # fmt: skip
    left, right = frame.spans[vessel.id]
    x, wide = frame.x(left), frame.size(right - left)
    floor, rim = vessel.floor_height, vessel.floor_height + vessel.shape.height

    def band(low: float, high: float, look: str) -> None:
        if high > low:
            tall = frame.size(high - low)
            scene.rects.append(Rect(x, frame.y(high), wide, tall, look, vessel.id))

    band(floor, rim, "inside")
    levels = evaluation.levels.get(vessel.id)
    if levels:
        high = min(levels.high, rim)
        band(floor, min(levels.low, high), "water-low")
        band(min(levels.low, high), high, "water-high")
    if vessel.media:
        band(floor + vessel.media.bottom, floor + vessel.media.top, "media")
    shell = f"{x},{frame.y(rim)} {x},{frame.y(floor)} {x + wide},{frame.y(floor)} " \
            f"{x + wide},{frame.y(rim)}"  # fmt: skip
    scene.strokes.append(Stroke(shell, 3.5, "shell", vessel.id))
    # The name lies in the water, as on a chart; pumps stand left of it and siphons right.
    place, name_y = x + 0.25 * wide, frame.y(floor + 0.42 * vessel.shape.height)
    scene.texts.append(Text(place + 15, name_y + 5, vessel.name, "vessel-name"))
    scene.badges.append(Badge(place, name_y, numbers[vessel.id]))
    if levels:
        _level_marks(frame, scene, vessel, levels.low, levels.high, x + wide, units)


def _level_marks(
    frame: _Frame, scene: Scene, vessel: Vessel, low: float, high: float, edge: float, units: System
) -> None:
    """The marks a builder would paint, named at the shell's right edge."""
    marks = [(high, "high"), (low, "low")] if high - low > 0.002 else [(high, "level")]
    last = -100.0
    for level, name in marks:
        y = frame.y(level)
        words_y = max(y + 4, last + _LABEL_STEP)
        last = words_y
        depth = show(level - vessel.floor_height, "length", units)
        scene.strokes.append(Stroke(f"{edge - 8},{y} {edge + 10},{y} {edge + 18},{words_y - 4}",
                                    1.2, "mark"))  # fmt: skip
        scene.texts.append(Text(edge + 21, words_y, f"{name} {depth}", "mark-figure"))


def _siphon_along(frame: _Frame, siphon: BellSiphon) -> float:
    left, right = frame.spans[siphon.stands_in]
    return right - 0.24 * (right - left)


def _bell(
    frame: _Frame, scene: Scene, plan: Plan, siphon: BellSiphon, numbers: dict[str, Station]
) -> None:
    floor = plan.vessel(siphon.stands_in).floor_height
    middle = frame.x(_siphon_along(frame, siphon))
    bore, bell = siphon.standpipe_bore.inside, siphon.bell_bore.inside
    top = floor + siphon.rim_height + 0.6 * bore + 0.02
    if siphon.guard_diameter:
        half = frame.size(siphon.guard_diameter) / 2
        tall = plan.vessel(siphon.stands_in).shape.height * 0.96
        scene.rects.append(
            Rect(middle - half, frame.y(floor + tall), 2 * half, frame.size(tall), "guard",
                 siphon.id)
        )  # fmt: skip
    half = max(frame.size(bell) / 2, 5.0)
    slots, crown = frame.y(floor + siphon.slot_height), frame.y(top)
    points = f"{middle - half},{slots} {middle - half},{crown} {middle + half},{crown} " \
             f"{middle + half},{slots}"  # fmt: skip
    scene.strokes.append(Stroke(points, 2.2, "bell", siphon.id))
    half = max(frame.size(bore) / 2, 2.2)
    for side in (-half, half):
        pipe = (
            f"{middle + side},{frame.y(floor + siphon.rim_height)} {middle + side},{frame.y(floor)}"
        )
        scene.strokes.append(Stroke(pipe, 1.4, "standpipe", siphon.id))
    if siphon.air_tube_height:
        x = middle + max(frame.size(bell) / 2, 5.0) + 4
        tube = f"{middle},{crown} {middle},{crown - 4} {x},{crown - 4} " \
               f"{x},{frame.y(floor + siphon.air_tube_height)}"  # fmt: skip
        scene.strokes.append(Stroke(tube, 1.5, "air-tube", siphon.id))
    bed_top = frame.y(floor + plan.vessel(siphon.stands_in).shape.height)
    scene.badges.append(Badge(middle, min(crown - 16, bed_top - 12), numbers[siphon.id]))


def _pump_place(frame: _Frame, plan: Plan, id_: str) -> tuple[float, float]:
    pump = next(p for p in plan.pumps if p.id == id_)
    left, right = frame.spans[pump.stands_in]
    place = frame.x(left + 0.06 * (right - left))
    floor = plan.vessel(pump.stands_in).floor_height
    return place, frame.y(floor + pump.inlet_height)


def _ends(frame: _Frame, plan: Plan, run: Run) -> tuple[float, float, float, float]:
    """Where a run starts and ends in the picture."""
    owner = run.start.partition(".")[0]
    if any(p.id == owner for p in plan.pumps):
        x0, y0 = _pump_place(frame, plan, owner)
        y0 -= 8
    else:
        siphon = next((s for s in plan.siphons if s.id == owner), None)
        if siphon is not None:
            x0 = frame.x(_siphon_along(frame, siphon))
            y0 = frame.y(plan.vessel(siphon.stands_in).floor_height)
        else:
            x0 = frame.x(frame.spans[owner][1])
            y0 = frame.y(plan.elevation(run.start) or 0.0)
    end = run.end.partition(".")[0]
    left, right = frame.spans[end]
    drop = any(s.id == owner for s in plan.siphons)
    x1 = (
        x0 - frame.size(min(run.level_length, 0.12))
        if drop
        else frame.x(left + 0.13 * (right - left))
    )
    if drop and not frame.x(left) < x1 < frame.x(right):
        x1 = frame.x(left + 0.1 * (right - left))
    return x0, y0, x1, frame.y(plan.elevation(run.end) or 0.0)


def _run(
    frame: _Frame, scene: Scene, plan: Plan, run: Run, numbers: dict[str, Station]
) -> None:  # fmt: skip
    x0, y0, x1, y1 = _ends(frame, plan, run)
    width = max(frame.size(run.bore.inside), 3.0)
    if y1 < y0:  # rises: up, across a hand above the outlet, and down into it
        over = y1 - 14
        points = f"{x0},{y0} {x0},{over} {x1},{over} {x1},{y1}"
        badge = (x0 - 15, (y0 + over) / 2 - 26)
    else:  # drops: down, aside just above the outlet, and down
        bend = max(y0 + 6, y1 - 16)
        points = f"{x0},{y0} {x0},{bend} {x1},{bend} {x1},{y1}"
        badge = (x0 + 16, (y0 + bend) / 2)
    scene.strokes.append(Stroke(points, round(width + 2.5, 1), "pipe-wall", run.id))
    scene.strokes.append(Stroke(points, width, "pipe", run.id))
    scene.strokes.append(Stroke(points, 1.2, "flow", run.id))
    if run.valve is not None:
        y = (y0 + y1) / 2 + 6
        left, right, top, foot = x0 - 8, x0 + 8, y - 6, y + 6
        bow = f"{left},{top} {right},{foot} {right},{top} {left},{foot} {left},{top}"
        scene.strokes.append(Stroke(bow, 1.5, "valve", run.id))
        scene.texts.append(Text(x0 + 13, y + 4, f"{run.valve.angle:.0f}°", "mark-figure"))
    scene.badges.append(Badge(*badge, numbers[run.id]))
