"""Names of vessels and the marks a builder would paint, where there is room for them."""

from collections import Counter
from collections.abc import Iterator, Sequence

from bathys.drawing.frame import Frame
from bathys.drawing.scene import BADGE, Scene, Stroke, Text, wide_as
from bathys.drawing.stations import Station
from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel
from bathys.units import System, show

__all__ = ["name_vessels", "write_levels"]

_LINE = 14.0  # from a name to what the vessel holds, under it
_MANY = 4  # narrow vessels in a row
_MOVES = 0.002  # a level that moves less has one mark [m]
_LOOK = "mark-figure level"
_SHIFTS = (0.0, 14.0, -14.0, 28.0)

Spot = tuple[float, float]


def name_vessels(
    frame: Frame,
    scene: Scene,
    vessels: Sequence[Vessel],
    numbers: dict[str, Station],
    units: System,
) -> None:
    """Each has its name in the water, as on a chart, or by the shell where that is too narrow; many
    narrow ones in a row have their labels alone.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    vessels : sequence of Vessel
        The vessels
    numbers : dict of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    rows = Counter((v.floor_height, v.job) for v in vessels if not _fits(frame, v))
    for vessel in vessels:
        is_crowded = rows[vessel.floor_height, vessel.job] >= _MANY and not _fits(frame, vessel)
        words = "" if is_crowded else vessel.name
        _name(frame, scene, vessel, words, numbers[vessel.id], units)


def _fits(frame: Frame, vessel: Vessel) -> bool:
    left, right = frame.edges(vessel.id)
    return wide_as(vessel.name, "vessel-name") + 2 * BADGE + 12 < right - left


def _name(
    frame: Frame, scene: Scene, vessel: Vessel, words: str, station: Station, units: System
) -> None:
    """Its name, and under it what it holds up to its rim where there is room. A name that
    fits nowhere clear of pipes is left to the list of parts; the number stays."""
    inside, beside = _spots(frame, vessel, wide_as(words, "vessel-name"))
    holds = show(vessel.shape.capacity, "volume", units)
    for spots, clear in ((inside, True), (beside, True), (inside, False)):
        for x, y in spots:
            text = Text(round(x + 15, 1), round(y + 5, 1), words, "vessel-name")
            badge = (x - BADGE, y - BADGE, x + BADGE, y + BADGE)
            if scene.is_free(text.box, clear) and scene.is_free(badge, clear):
                scene.number([(x, y)], station)
                scene.write([text] if words else [])
                volume = Text(text.x, text.y + _LINE, holds, "holds")
                if words and spots is inside and scene.is_free(volume.box, clear):
                    scene.write([volume])
                return
    left, right = frame.edges(vessel.id)
    floor, tall = vessel.floor_height, vessel.shape.height
    middles = (left + BADGE + 4, 0.5 * (left + right), right - BADGE - 4)
    scene.number(
        [(x, frame.y(floor + share * tall)) for share in (0.42, 0.7, 0.2) for x in middles],
        station,
    )


def _spots(frame: Frame, vessel: Vessel, wide: float) -> tuple[list[Spot], list[Spot]]:
    """Places of the number with the name right of it: within the shell, and about it."""
    left, right = frame.edges(vessel.id)
    floor, tall = vessel.floor_height, vessel.shape.height
    starts = (
        left + 0.25 * (right - left),
        left + 16.0,
        left + 8.0 + BADGE,
        right - wide - 22.0,
        0.5 * (left + right - wide),
    )
    inside = [
        (x, frame.y(floor + share * tall))
        for share in (0.42, 0.6, 0.25, 0.75, 0.12)
        for x in starts
        if left + BADGE + 2 < x and x + 15 + wide < right - 4
    ]
    middle = 0.5 * (left + right) - 0.5 * wide
    beside = [
        (max(x, 14.0), y)
        for y in (frame.y(floor) + 14.0, frame.y(floor + tall) - 12.0, frame.y(floor) + 30.0)
        for x in (middle, left + 12.0, right - wide)
    ]
    return inside, beside


def write_levels(frame: Frame, scene: Scene, evaluation: Evaluation, units: System) -> None:
    """A tick at every level; vessels that stand alike beside each other share its figure.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    evaluation : Evaluation
        The numbers of a plan
    units : System
        The reader's units
    """
    for alike in _alike(evaluation, units):
        for k, name in enumerate(_marks(evaluation, alike[0], units)):
            _write_level(frame, scene, evaluation, alike, k, name)


def _levels(evaluation: Evaluation, vessel: Vessel) -> list[tuple[str, float]]:
    levels = evaluation.levels[vessel.id]
    if levels.high - levels.low > _MOVES:
        return [("high", levels.high), ("low", levels.low)]
    return [("level", levels.high)]


def _marks(evaluation: Evaluation, vessel: Vessel, units: System) -> list[tuple[str, str]]:
    """Name and depth of each level, in words."""
    return [
        (name, show(level - vessel.floor_height, "length", units))
        for name, level in _levels(evaluation, vessel)
    ]


def _alike(evaluation: Evaluation, units: System) -> list[list[Vessel]]:
    """Vessels at one height whose levels read the same, the rightmost first."""
    groups: dict[object, list[Vessel]] = {}
    for vessel in evaluation.plan.vessels:
        key = (vessel.floor_height, vessel.job, *_marks(evaluation, vessel, units))
        groups.setdefault(key, []).insert(0, vessel)
    return list(groups.values())


def _write_level(
    frame: Frame,
    scene: Scene,
    evaluation: Evaluation,
    alike: Sequence[Vessel],
    k: int,
    name: tuple[str, str],
) -> None:
    places = [(v, frame.y(_levels(evaluation, v)[k][1])) for v in alike]
    before = len(scene.texts)
    written = scene.write(
        text
        for words in (" ".join(name), name[1])
        for vessel, y in places
        for text in _beside_level(frame, vessel, y, words)
    )
    text = scene.texts[before] if written else None
    for vessel, y in places:
        left, right = frame.edges(vessel.id)
        start, end = f"{right - 8},{y} {right + 6},{y}", ""
        if text is not None and abs(text.y - 4 - y) <= max(_SHIFTS):
            if right < text.x < right + 30 and text.anchor == "start":
                start, end = f"{right - 8},{y} {right + 10},{y}", f" {right + 18},{text.y - 4}"
            elif left - 30 < text.x < left and text.anchor == "end":
                start, end = f"{left + 8},{y} {left - 10},{y}", f" {left - 18},{text.y - 4}"
        scene.strokes.append(Stroke(start + end, 1.2, "mark"))


def _beside_level(frame: Frame, vessel: Vessel, y: float, words: str) -> Iterator[Text]:
    left, right = frame.edges(vessel.id)
    for shift in _SHIFTS:
        yield Text(right + 21, round(y + 4 + shift, 1), words, _LOOK)
        yield Text(right - 12, round(y - 3 + shift, 1), words, _LOOK, "end")
        yield Text(left + 10, round(y - 3 + shift, 1), words, _LOOK)
        yield Text(left - 21, round(y + 4 + shift, 1), words, _LOOK, "end")
    over = frame.y(vessel.floor_height + vessel.shape.height) - 6.0
    for x in (left, round(right - wide_as(words), 1)):
        yield Text(x, round(over, 1), words, _LOOK)
