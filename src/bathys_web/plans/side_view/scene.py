"""What there is to draw, in picture units, and where labels may go."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import chain

from bathys_web.plans.stations import Station

__all__ = ["BADGE", "Badge", "Box", "Rect", "Scene", "Shape", "Stroke", "Text", "Water", "wide_as"]

BADGE = 9.5
"""Radius of a station's number."""

_LETTERS = {"vessel-name": 7.8, "bore-figure": 6.2}  # about as wide as a letter of a label is
_LETTER = 7.0
_ROW = 2.0  # picture units that one row of bits stands for
_ROWS = 600
_BESIDE, _ABOVE = 100.0, 60.0  # so much beside and above the picture counts too
_GAP = 1.5  # words stand so far off each other

Box = tuple[float, float, float, float]


def wide_as(words: str, look: str = "") -> float:
    """About how wide words are drawn."""
    return _LETTERS.get(look, _LETTER) * len(words)


@dataclass(frozen=True, slots=True)
class Rect:
    """A rectangle, with what it shows."""

    x: float
    y: float
    width: float
    height: float
    look: str
    part: str = ""


@dataclass(frozen=True, slots=True)
class Shape:
    """A filled outline, with what it shows."""

    points: str
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

    @property
    def box(self) -> Box:
        """About where the words lie."""
        wide = wide_as(self.words, self.look)
        left = self.x - wide if self.anchor == "end" else self.x
        return left - _GAP, self.y - 10.5, left + wide + _GAP, self.y + 3.0


@dataclass(frozen=True, slots=True)
class Badge:
    """A station's number, which opens the part."""

    x: float
    y: float
    station: Station
    pin: str = ""

    @property
    def pin_points(self) -> str:
        """Corners of the mark that says there is something to mend."""
        x, y = self.x + 6.0, self.y - 6.0
        return f"{x:.1f},{y:.1f} {x + 5.0:.1f},{y - 9.0:.1f} {x + 10.0:.1f},{y:.1f}"

    @property
    def box(self) -> Box:
        """Where it lies."""
        return self.x - BADGE, self.y - BADGE, self.x + BADGE, self.y + BADGE


@dataclass(frozen=True, slots=True)
class Water:
    """Where water is drawn while time runs: a shell's width, and its outline where that tapers."""

    x: float
    width: float
    floor: float
    part: str
    outline: str = ""


class _Field:
    """Where boxes lie: a row of bits, one a picture unit, for every few units down the picture. A
    label is tried in many places, and a large plan has hundreds of labels."""

    def __init__(self) -> None:
        self._rows = [0] * _ROWS

    @staticmethod
    def _span(box: Box) -> tuple[int, int, int]:
        # Rounded outwards, so that what the rows hold to be apart is apart.
        left, right = max(int(box[0] + _BESIDE), 0), -int(-box[2] - _BESIDE)
        top, foot = int(box[1] / _ROW + _ABOVE), -int(-box[3] / _ROW - _ABOVE)
        bits = ((1 << max(right - left, 1)) - 1) << left
        return bits, max(top, 0), min(max(foot, top + 1), _ROWS)

    def add(self, box: Box) -> None:
        """Put a box in."""
        bits, top, foot = self._span(box)
        for row in range(top, foot):
            self._rows[row] |= bits

    def meets(self, box: Box) -> bool:
        """Whether a box lies over any that was put in."""
        bits, top, foot = self._span(box)
        for row in self._rows[top:foot]:  # noqa: SIM110 - half as quick with any()
            if row & bits:
                return True
        return False


@dataclass
class Scene:
    """Everything to draw."""

    width: float
    height: float
    ground: float = 0.0
    is_wide: bool = False
    narrowed: float = 1.0
    rects: list[Rect] = field(default_factory=list)
    shapes: list[Shape] = field(default_factory=list)
    strokes: list[Stroke] = field(default_factory=list)
    texts: list[Text] = field(default_factory=list)
    badges: list[Badge] = field(default_factory=list)
    handles: list[Rect] = field(default_factory=list)
    waters: list[Water] = field(default_factory=list)
    up: float = 1.0
    zero: float = 0.0
    step: float = 1.0
    beside: float = 1.0
    summary: str = ""
    grades: list[Stroke] = field(default_factory=list)
    _taken: _Field = field(default_factory=_Field)
    _avoided: _Field = field(default_factory=_Field)

    def is_free(self, box: Box, clear: bool = False) -> bool:
        """Whether a label fits there, within the picture and clear of all others; if it is to be
        ``clear``, of what is better left bare too."""
        left, top, right, foot = box
        if left < 0.0 or top < 0.0 or right > self.width or foot > self.height:
            return False
        return not (self._taken.meets(box) or (clear and self._avoided.meets(box)))

    def write(self, candidates: Iterable[Text], must_be_clear: bool = False) -> bool:
        """Put words at the first place where they fit, better clear of pipes; leave them out if
        there is none."""
        tried: list[Text] = []
        for text in candidates:  # as many as are needed: they come one by one
            if self._written(text, True):
                return True
            tried.append(text)
        return not must_be_clear and any(self._written(text, False) for text in tried)

    def _written(self, text: Text, clear: bool) -> bool:
        if not self.is_free(text.box, clear):
            return False
        self._taken.add(text.box)
        self.texts.append(text)
        return True

    def number(self, places: Iterable[tuple[float, float]], station: Station) -> None:
        """Put a station's number at the first place where it fits, else as near as can be."""
        tried: list[tuple[float, float]] = []
        for x, y in places:
            if self._numbered(x, y, station, True):
                return
            tried.append((x, y))
        any(self._numbered(x, y, station, False) for x, y in chain(tried, _around(*tried[0])))

    def _numbered(self, x: float, y: float, station: Station, clear: bool) -> bool:
        badge = Badge(round(x, 1), round(y, 1), station)
        if not self.is_free(badge.box, clear):
            return False
        self._taken.add(badge.box)
        self.badges.append(badge)
        return True

    def keep_clear(self, box: Box) -> None:
        """Let no label lie there."""
        self._taken.add(box)

    def avoid(self, box: Box) -> None:
        """Let no label lie there that has another place."""
        self._avoided.add(box)


def _around(x: float, y: float) -> Iterable[tuple[float, float]]:
    """Places round a place, farther and farther out."""
    for ring in range(1, 40):
        reach = ring * 10.0
        for side in range(-ring, ring + 1):
            step = side * 10.0
            yield from ((x + step, y - reach), (x + step, y + reach),
                        (x - reach, y + step), (x + reach, y + step))  # fmt: skip
