"""What there is to draw, in picture units, and where labels may go."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from bathys_web.plans.stations import Station

__all__ = ["BADGE", "Badge", "Box", "Rect", "Scene", "Shape", "Stroke", "Text", "Water", "wide_as"]

BADGE = 9.5
"""Radius of a station's number."""

_LETTER = 7.0  # about as wide as a letter of the labels is
_LINE = 12.0

Box = tuple[float, float, float, float]


def wide_as(words: str) -> float:
    """About how wide words are drawn."""
    return _LETTER * len(words)


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
        wide = wide_as(self.words)
        left = self.x - wide if self.anchor == "end" else self.x
        return left, self.y - 10.0, left + wide, self.y + 2.0


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
    _taken: list[Box] = field(default_factory=list)

    def is_free(self, box: Box) -> bool:
        """Whether a label fits there, within the picture and clear of all others."""
        left, top, right, foot = box
        if left < 0.0 or top < 0.0 or right > self.width or foot > self.height:
            return False
        return not any(
            left < b[2] and b[0] < right and top < b[3] and b[1] < foot for b in self._taken
        )

    def write(self, candidates: Iterable[Text]) -> bool:
        """Put words at the first place where they fit; leave them out if there is none."""
        for text in candidates:
            if self.is_free(text.box):
                self._taken.append(text.box)
                self.texts.append(text)
                return True
        return False

    def number(self, places: Iterable[tuple[float, float]], station: Station) -> None:
        """Put a station's number at the first place where it fits, else as near as can be."""
        first = None
        for x, y in places:
            first = first or (x, y)
            badge = Badge(round(x, 1), round(y, 1), station)
            if self.is_free(badge.box):
                self._taken.append(badge.box)
                self.badges.append(badge)
                return
        assert first is not None  # noqa: S101 - there is always a place to begin from
        for x, y in _around(*first):
            badge = Badge(round(x, 1), round(y, 1), station)
            if self.is_free(badge.box):
                self._taken.append(badge.box)
                self.badges.append(badge)
                return

    def keep_clear(self, box: Box) -> None:
        """Let no label lie there."""
        self._taken.append(box)


def _around(x: float, y: float) -> Iterable[tuple[float, float]]:
    """Places round a place, farther and farther out."""
    for ring in range(1, 40):
        reach = ring * 10.0
        for side in range(-ring, ring + 1):
            step = side * 10.0
            yield from ((x + step, y - reach), (x + step, y + reach),
                        (x - reach, y + step), (x + reach, y + step))  # fmt: skip
