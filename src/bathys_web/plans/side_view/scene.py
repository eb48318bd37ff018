"""What there is to draw, in picture units, and where labels may go."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from bathys_web.plans.stations import Station

__all__ = ["BADGE", "Badge", "Box", "Rect", "Scene", "Shape", "Stroke", "Text", "Water", "wide_as"]

BADGE = 9.5
"""Radius of a station's number."""

_LETTERS = {"vessel-name": 7.8, "bore-figure": 6.2}  # about as wide as a letter of a label is
_LETTER = 7.0
_LINE = 12.0

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
        return left, self.y - 10.5, left + wide, self.y + 3.0


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
    summary: str = ""
    grades: list[Stroke] = field(default_factory=list)
    _taken: list[Box] = field(default_factory=list)
    _avoided: list[Box] = field(default_factory=list)

    def is_free(self, box: Box, clear: bool = False) -> bool:
        """Whether a label fits there, within the picture and clear of all others; if it is to be
        ``clear``, of what is better left bare too."""
        left, top, right, foot = box
        if left < 0.0 or top < 0.0 or right > self.width or foot > self.height:
            return False
        return not any(
            left < b[2] and b[0] < right and top < b[3] and b[1] < foot
            for b in ([*self._taken, *self._avoided] if clear else self._taken)
        )

    def write(self, candidates: Iterable[Text], must_be_clear: bool = False) -> bool:
        """Put words at the first place where they fit, better clear of pipes; leave them out if
        there is none."""
        known = list(candidates)
        for clear in (True,) if must_be_clear else (True, False):
            for text in known:
                if self.is_free(text.box, clear):
                    self._taken.append(text.box)
                    self.texts.append(text)
                    return True
        return False

    def number(self, places: Iterable[tuple[float, float]], station: Station) -> None:
        """Put a station's number at the first place where it fits, else as near as can be."""
        known = list(places)
        for clear in (True, False):
            for x, y in known:
                if self._numbered(x, y, station, clear):
                    return
        for x, y in _around(*known[0]):
            if self._numbered(x, y, station, False):
                return

    def _numbered(self, x: float, y: float, station: Station, clear: bool) -> bool:
        badge = Badge(round(x, 1), round(y, 1), station)
        if not self.is_free(badge.box, clear):
            return False
        self._taken.append(badge.box)
        self.badges.append(badge)
        return True

    def keep_clear(self, box: Box) -> None:
        """Let no label lie there."""
        self._taken.append(box)

    def avoid(self, box: Box) -> None:
        """Let no label lie there that has another place."""
        self._avoided.append(box)


def _around(x: float, y: float) -> Iterable[tuple[float, float]]:
    """Places round a place, farther and farther out."""
    for ring in range(1, 40):
        reach = ring * 10.0
        for side in range(-ring, ring + 1):
            step = side * 10.0
            yield from ((x + step, y - reach), (x + step, y + reach),
                        (x - reach, y + step), (x + reach, y + step))  # fmt: skip
