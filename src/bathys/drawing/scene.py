"""What there is to draw, in picture units, and where labels may go."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import chain

from bathys.drawing.stations import Station

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


@dataclass(frozen=True, slots=True)
class Water:
    """Where water is drawn while time runs: a shell's width, and its outline where that tapers."""

    x: float
    width: float
    floor: float
    part: str
    outline: str = ""


_Span = tuple[int, int, int]


def _span(box: Box) -> _Span:
    """The bits of a row that a box covers, and its first row and the one after its last. Rounded
    outwards, so that what the rows hold to be apart is apart. Written out, since a large plan's
    labels are tried in thousands of places."""
    left, right = int(box[0] + _BESIDE), -int(-box[2] - _BESIDE)
    top, foot = int(box[1] / _ROW + _ABOVE), -int(-box[3] / _ROW - _ABOVE)
    left = max(left, 0)
    top = max(top, 0)
    foot = min(foot, _ROWS)
    return ((1 << (right - left if right > left else 1)) - 1) << left, top, foot


class _Field:
    """Where boxes lie: a row of bits, one a picture unit, for every few units down the picture. A
    label is tried in many places, and a large plan has hundreds of labels."""

    def __init__(self) -> None:
        self._rows = [0] * _ROWS

    def add(self, span: _Span) -> None:
        """Put a box in."""
        bits, top, foot = span
        for row in range(top, max(foot, top + 1)):
            self._rows[row] |= bits

    def meets(self, span: _Span) -> bool:
        """Whether a box lies over any that was put in."""
        bits, top, foot = span
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
        return self._is_within(box) and self._is_bare(_span(box), clear)

    def _is_within(self, box: Box) -> bool:
        left, top, right, foot = box
        return left >= 0.0 and top >= 0.0 and right <= self.width and foot <= self.height

    def _is_bare(self, span: _Span, clear: bool) -> bool:
        return not (self._taken.meets(span) or (clear and self._avoided.meets(span)))

    def write(self, candidates: Iterable[Text], must_be_clear: bool = False) -> bool:
        """Put words at the first place where they fit, better clear of pipes; leave them out if
        there is none."""
        tried: list[tuple[Text, _Span]] = []
        for text in candidates:  # as many as are needed: they come one by one
            box = text.box
            if not self._is_within(box):
                continue
            span = _span(box)
            if self._is_bare(span, True):
                return self._written(text, span)
            tried.append((text, span))
        if must_be_clear:
            return False
        found = next((one for one in tried if self._is_bare(one[1], False)), None)
        return found is not None and self._written(*found)

    def _written(self, text: Text, span: _Span) -> bool:
        self._taken.add(span)
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
        box = (x - BADGE, y - BADGE, x + BADGE, y + BADGE)
        if not self._is_within(box):
            return False
        span = _span(box)
        if not self._is_bare(span, clear):
            return False
        self._taken.add(span)
        self.badges.append(Badge(round(x, 1), round(y, 1), station))
        return True

    def keep_clear(self, box: Box) -> None:
        """Let no label lie there."""
        self._taken.add(_span(box))

    def avoid(self, box: Box) -> None:
        """Let no label lie there that has another place."""
        self._avoided.add(_span(box))


def _around(x: float, y: float) -> Iterable[tuple[float, float]]:
    """Places round a place, farther and farther out."""
    for ring in range(1, 40):
        reach = ring * 10.0
        for side in range(-ring, ring + 1):
            step = side * 10.0
            yield from ((x + step, y - reach), (x + step, y + reach),
                        (x - reach, y + step), (x + reach, y + step))  # fmt: skip
