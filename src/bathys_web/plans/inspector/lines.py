"""Boxes of several lines, each with two quantities: the points of a curve, the marks of a shell."""

import math
from collections.abc import Iterable
from typing import NamedTuple

from bathys.edits import EditRefused
from bathys.units import System, UnreadableQuantity, entry, read, unit_of

__all__ = ["LINES", "Lines"]

_SAME = 1e-4  # relative: what was typed and what is stored are told as one within this


class Lines(NamedTuple):
    """How a box of lines is written and read.

    Attributes
    ----------
    word : str
        What stands between the two
    names, quantities : tuple of str
        The fields of a line, and their quantities
    wants : str
        What a line should be, with an example
    """

    word: str
    names: tuple[str, str]
    quantities: tuple[str, str]
    wants: str

    def write(self, rows: Iterable[tuple[float, float]], units: System) -> str:
        """The lines of some values [SI], in the reader's units."""
        return "\n".join(
            f" {self.word} ".join(
                f"{entry(value, quantity, units)} {unit_of(quantity, units)}"
                for value, quantity in zip(row, self.quantities, strict=True)
            )
            for row in rows
        )

    def parse(self, text: str, units: System) -> list[dict[str, float]]:
        """The values of some lines [SI], by field.

        Raises
        ------
        EditRefused
            With the number of the line that cannot be read
        """
        pairs = []
        for number, line in enumerate(filter(None, map(str.strip, text.splitlines())), start=1):
            one, found, two = self._halves(line)
            if not found:
                raise EditRefused(f"Line {number} wants {self.wants}.")
            try:
                values = [
                    read(t, q, units) for t, q in zip((one, two), self.quantities, strict=True)
                ]
            except UnreadableQuantity as error:
                raise EditRefused(f"Line {number}: {error}") from None
            pairs.append(dict(zip(self.names, values, strict=True)))
        return pairs

    def _halves(self, line: str) -> tuple[str, str, str]:
        """A line such as “flow at head”, or two cells of a table with ; , or a tab between."""
        for mark in (f" {self.word} ", ";", "\t", ","):
            one, found, two = line.partition(mark)
            if found:
                return one, found, two
        return line, "", ""

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


LINES = {
    "points": Lines(
        "at",
        ("flow", "head"),
        ("flow", "head"),
        "a flow, “at” and a head: 800 L/h at 1.2 m",
    ),
    "marks": Lines(
        "holds",
        ("level", "volume"),
        ("length", "volume"),
        "a level, “holds” and a volume: 20 cm holds 140 L",
    ),
}
"""By the kind of the box."""
