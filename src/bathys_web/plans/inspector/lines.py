"""Boxes of several lines, each with a few quantities: the points of a curve, the marks of a shell,
rows of holes."""

import math
from collections.abc import Iterable, Sequence
from typing import Any, NamedTuple

from bathys.edits import EditRefused
from bathys.units import System, UnreadableQuantity, entry, read, unit_of

__all__ = ["LINES", "Lines"]

_MOST_DIGITS = 4
_SAME = 1e-4  # relative: what was typed and what is stored are told as one within this


class Lines(NamedTuple):
    """How a box of lines is written and read.

    Attributes
    ----------
    words : tuple of tuple of str
        What stands between one quantity and the next: as it is written, and what is read as well
    names, quantities : tuple of str
        The fields of a line, and their quantities
    wants : str
        What a line should be, with an example
    may_be_empty : bool
        Whether the box may hold no line
    """

    words: tuple[tuple[str, ...], ...]
    names: tuple[str, ...]
    quantities: tuple[str, ...]
    wants: str
    may_be_empty: bool = False

    def write(self, rows: Iterable[Sequence[float]], units: System) -> str:
        """The lines of some values [SI], in the reader's units."""
        return "\n".join(self._line(row, units) for row in rows)

    def _line(self, row: Sequence[float], units: System) -> str:
        cells = [
            f"{entry(value, quantity, units)} {unit_of(quantity, units)}".strip()
            for value, quantity in zip(row, self.quantities, strict=True)
        ]
        text = cells[0]
        for words, cell in zip(self.words, cells[1:], strict=True):
            text += f" {words[0]} {cell}"
        return text

    def values_of(self, rows: Iterable[Any]) -> list[list[float]]:
        """What a box of these lines holds of some parts [SI]."""
        return [[float(getattr(row, name)) for name in self.names] for row in rows]

    def parse(self, text: str, units: System) -> list[dict[str, float]]:
        """The values of some lines [SI], by field.

        Raises
        ------
        EditRefused
            With the number of the line that cannot be read
        """
        if self.may_be_empty and text.strip().lower() == _NONE:
            return []
        rows = []
        for number, line in enumerate(filter(None, map(str.strip, text.splitlines())), start=1):
            cells = self._cells(line)
            if len(cells) != len(self.names):
                raise EditRefused(f"Line {number} wants {self.wants}.")
            try:
                values = [
                    _count(t) if q == "count" else read(t, q, units)
                    for t, q in zip(cells, self.quantities, strict=True)
                ]
            except UnreadableQuantity as error:
                raise EditRefused(f"Line {number}: {error}") from None
            rows.append(dict(zip(self.names, values, strict=True)))
        return rows

    def _cells(self, line: str) -> list[str]:
        """A line such as “flow at head”, or the cells of a table with ; , or a tab between."""
        cells, rest = [], line
        for words in self.words:
            marks = (f" {w} " if w.isalpha() else w for w in words)
            mark = next((m for m in marks if m in rest), None)
            if mark is None:
                break
            one, _, rest = rest.partition(mark)
            cells.append(one)
        else:
            return [*cells, rest]
        for mark in (";", "\t", ","):
            if mark in line:
                return line.split(mark, len(self.names) - 1)
        return []

    def are_one(self, one: str, other: str, units: System) -> bool:
        """Whether two texts say the same."""
        try:
            pairs = [
                [v for row in self.parse(t, units) for v in row.values()] for t in (one, other)
            ]
        except EditRefused:
            return False
        return len(pairs[0]) == len(pairs[1]) and all(
            math.isclose(a, b, rel_tol=_SAME, abs_tol=1e-9) for a, b in zip(*pairs, strict=True)
        )

    def says_units(self, text: str) -> bool:
        """Whether each of its numbers has a unit, so that it reads alike in any units."""
        try:
            return self.parse(text, "metric") == self.parse(text, "us")
        except EditRefused:
            return False


_NONE = "none"  # what people write into a box that may be empty


def _count(text: str) -> int:
    """A whole number of pieces."""
    words = text.strip()
    if not words.isdecimal() or len(words) > _MOST_DIGITS:
        raise UnreadableQuantity(f"“{words}” is no number of pieces; try 12.")
    return int(words)


LINES = {
    "points": Lines(
        (("at",),),
        ("flow", "head"),
        ("flow", "head"),
        "a flow, “at” and a head: 800 L/h at 1.2 m",
    ),
    "marks": Lines(
        (("holds",),),
        ("level", "volume"),
        ("length", "volume"),
        "a level, “holds” and a volume: 20 cm holds 140 L",
    ),
    "hole_rows": Lines(
        (("×", "x", "of"), ("at",)),
        ("count", "diameter", "height"),
        ("count", "length", "length"),
        "a number, a drill size and a height: 12 × 8 mm at 30 mm",
        may_be_empty=True,
    ),
    "spells": Lines(
        (("to", "until", "–", "-"),),
        ("begins", "ends"),
        ("daytime", "daytime"),
        "two times of the day: 6:00 to 20:00",
    ),
    "winter_spells": Lines(
        (("to", "until", "–", "-"),),
        ("begins", "ends"),
        ("daytime", "daytime"),
        "two times of the day: 8:00 to 16:00",
        may_be_empty=True,
    ),
    "air_tubes": Lines(
        (("at",),),
        ("bore", "mouth_height"),
        ("length", "length"),
        "a bore, “at” and the height of the mouth: 8 mm at 40 mm",
        may_be_empty=True,
    ),
}
"""By the kind of the box."""
