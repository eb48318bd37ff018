"""Ordinary charts as data: what the page's charting library is to draw, in the reader's units."""

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass

from bathys.units import System, in_unit, unit_of

__all__ = ["Curve", "Mark", "Plot", "Spot"]

_FIGURES = 5


@dataclass(frozen=True, slots=True)
class Curve:
    """A line of a chart.

    Attributes
    ----------
    label : str
        Its name in the key
    xs, ys : sequence of float
        In the engine's units; x rising
    look : str
        A colour of the page: ``deep``, ``mark``, ``good``, ``clay``, ``plum``, ``olive``, ``sky``
        or ``soft``
    is_dashed : bool
        Whether it is broken
    is_quiet : bool
        Whether it is drawn only when its name in the key is pressed
    """

    label: str
    xs: Sequence[float]
    ys: Sequence[float]
    look: str = "deep"
    is_dashed: bool = False
    is_quiet: bool = False


@dataclass(frozen=True, slots=True)
class Mark:
    """A level line across a chart, with words."""

    at: float
    words: str


@dataclass(frozen=True, slots=True)
class Spot:
    """A point of a chart, with words."""

    x: float
    y: float
    words: str
    look: str = "mark"


@dataclass(frozen=True)
class Plot:
    """A chart.

    Attributes
    ----------
    title : str
        What it shows, for those who do not see it
    x, y : tuple of (str, str)
        Name and quantity of each axis
    curves, marks, spots
        What is drawn
    is_log : bool
        Whether the scale across goes by tens
    """

    title: str
    x: tuple[str, str]
    y: tuple[str, str]
    curves: tuple[Curve, ...]
    marks: tuple[Mark, ...] = ()
    spots: tuple[Spot, ...] = ()
    is_log: bool = False

    def as_json(self, units: System) -> str:
        """All of it in the units shown; times are in minutes."""

        def to(axis: tuple[str, str], value: float) -> float:
            shown = in_unit(float(value), axis[1], units)
            return float(f"{shown:.{_FIGURES}g}") if math.isfinite(shown) else 0.0

        return json.dumps(
            {
                "title": self.title,
                "x": _axis(self.x, units),
                "log": self.is_log,
                "y": _axis(self.y, units),
                "curves": [
                    {
                        "label": c.label,
                        "look": c.look,
                        "dash": c.is_dashed,
                        "quiet": c.is_quiet,
                        "xs": [to(self.x, v) for v in c.xs],
                        "ys": [to(self.y, v) for v in c.ys],
                    }
                    for c in self.curves
                ],
                "marks": [{"at": to(self.y, m.at), "words": m.words} for m in self.marks],
                "spots": [
                    {"x": to(self.x, s.x), "y": to(self.y, s.y), "words": s.words, "look": s.look}
                    for s in self.spots
                ],
            },
            separators=(",", ":"),
        )


def _axis(axis: tuple[str, str], units: System) -> str:
    label = unit_of(axis[1], units)
    return f"{axis[0]} ({label})" if label else axis[0]
