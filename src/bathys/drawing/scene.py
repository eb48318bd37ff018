"""What there is to draw, in picture units, and where labels may go."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import chain
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.drawing.stations import Station

__all__ = ["BADGE", "Badge", "Box", "Rect", "Scene", "Shape", "Stroke", "Text", "Water", "wide_as"]

BADGE = 9.5
"""Radius of a station's number."""

_LETTERS = {"vessel-name": 7.8, "bore-figure": 6.2}  # about as wide as a letter of a label is
_LETTER = 7.0
_ROW = 2.0  # picture units that one row of cells stands for
_ROWS = 600
_BESIDE, _ABOVE = 100.0, 60.0  # so much beside and above the picture counts too
_GAP = 1.5  # words stand so far off each other

Box = tuple[float, float, float, float]
Cells = NDArray[np.bool_]
"""Where boxes lie: a cell for every picture unit across and every few down. A label is tried in
many places, and a large plan has hundreds of labels."""


def wide_as(words: str, look: str = "") -> float:
    """About how wide words are drawn.

    Parameters
    ----------
    words : str
        The words
    look : str
        Name of the look they are written in

    Returns
    -------
    float
        The width, [picture units]
    """
    return _LETTERS.get(look, _LETTER) * len(words)


class Rect(NamedTuple):
    """A rectangle, with what it shows."""

    x: float
    y: float
    width: float
    height: float
    look: str
    part: str = ""


class Shape(NamedTuple):
    """A filled outline, with what it shows."""

    points: str
    look: str
    part: str = ""


class Stroke(NamedTuple):
    """A line through points, with what it shows."""

    points: str
    width: float
    look: str
    part: str = ""


class Text(NamedTuple):
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


class Badge(NamedTuple):
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


class Water(NamedTuple):
    """Where water is drawn while time runs: a shell's width, and its outline where that tapers."""

    x: float
    width: float
    floor: float
    part: str
    outline: str = ""


_OUTSIDE, _OVER, _CROSSING, _CLEAR = range(4)
"""How a box lies: beyond the picture, over a label, over what is better left bare, or well."""


@njit_borrowing
def _lies(
    taken: Cells,
    avoided: Cells,
    width: float,
    height: float,
    left: float,
    top: float,
    right: float,
    foot: float,
) -> int:
    """How a box lies: what stands lower than ``_CLEAR`` is worse."""
    if left < 0.0 or top < 0.0 or right > width or foot > height:
        return _OUTSIDE
    rows, columns = taken.shape
    first, last = max(int(left + _BESIDE), 0), min(int(right + _BESIDE), columns)
    upper, lower = max(int(top / _ROW + _ABOVE), 0), min(int(foot / _ROW + _ABOVE), rows)
    found = _CLEAR
    for row in range(upper, max(lower, upper + 1) if upper < rows else upper):
        for column in range(first, max(last, first + 1) if first < columns else first):
            if taken[row, column]:
                return _OVER
            if avoided[row, column]:
                found = _CROSSING
    return found


@njit_borrowing
def _put_in(cells: Cells, left: float, top: float, right: float, foot: float) -> None:
    """Mark the cells that a box lies over."""
    rows, columns = cells.shape
    first, last = max(int(left + _BESIDE), 0), min(int(right + _BESIDE), columns)
    upper, lower = max(int(top / _ROW + _ABOVE), 0), min(int(foot / _ROW + _ABOVE), rows)
    for row in range(upper, max(lower, upper + 1) if upper < rows else upper):
        for column in range(first, max(last, first + 1) if first < columns else first):
            cells[row, column] = True


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
    _taken: Cells = field(init=False)
    _avoided: Cells = field(init=False)

    def __post_init__(self) -> None:
        columns = int(self.width + 2.0 * _BESIDE)
        self._taken = np.zeros((_ROWS, columns), dtype=np.bool_)
        self._avoided = np.zeros_like(self._taken)

    def is_free(self, box: Box, clear: bool = False) -> bool:
        """Whether a label fits there, within the picture and clear of all others; if it is to be
        ``clear``, of what is better left bare too."""
        return self._lies(box) >= (_CLEAR if clear else _CROSSING)

    def _lies(self, box: Box) -> int:
        lies: int = _lies(self._taken, self._avoided, self.width, self.height, *box)
        return lies

    def write(self, candidates: Iterable[Text], must_be_clear: bool = False) -> bool:
        """Put words at the first place where they fit, better clear of pipes; leave them out if
        there is none."""
        crossing: tuple[Text, Box] | None = None
        for text in candidates:  # as many as are needed: they come one by one
            box = text.box
            lies = self._lies(box)
            if lies == _CLEAR:
                return self._written(text, box)
            if lies == _CROSSING and crossing is None:
                crossing = text, box
        return crossing is not None and not must_be_clear and self._written(*crossing)

    def _written(self, text: Text, box: Box) -> bool:
        self.keep_clear(box)
        self.texts.append(text)
        return True

    def number(self, places: Iterable[tuple[float, float]], station: Station) -> None:
        """Put a station's number at the first place [px] where it fits, else as near as can be."""
        tried: list[tuple[float, float]] = []
        for x, y in places:
            if self._numbered(x, y, station, True):
                return
            tried.append((x, y))
        any(self._numbered(x, y, station, False) for x, y in chain(tried, _around(*tried[0])))

    def _numbered(self, x: float, y: float, station: Station, clear: bool) -> bool:
        box = (x - BADGE, y - BADGE, x + BADGE, y + BADGE)
        if not self.is_free(box, clear):
            return False
        self.keep_clear(box)
        self.badges.append(Badge(round(x, 1), round(y, 1), station))
        return True

    def keep_clear(self, box: Box) -> None:
        """Let no label lie there."""
        _put_in(self._taken, *box)

    def avoid(self, box: Box) -> None:
        """Let no label lie there that has another place."""
        _put_in(self._avoided, *box)


def _around(x: float, y: float) -> Iterable[tuple[float, float]]:
    """Places round a place, farther and farther out."""
    for ring in range(1, 40):
        reach = ring * 10.0
        for side in range(-ring, ring + 1):
            step = side * 10.0
            yield from (
                (x + step, y - reach),
                (x + step, y + reach),
                (x - reach, y + step),
                (x + reach, y + step),
            )
