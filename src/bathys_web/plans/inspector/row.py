"""One box of the inspector."""

from dataclasses import dataclass
from typing import Literal, get_args

__all__ = ["Kind", "LinesKind", "Row"]

LinesKind = Literal["points", "marks", "hole_rows", "air_tubes", "spells", "winter_spells"]
"""Boxes of several lines."""

Kind = Literal[
    LinesKind,
    "number",
    "count",
    "choice",
    "switch",
    "link",
    "text",
    "prose",
    "bore",
    "schools",
    "hole",
    "pick",
    "volume",
    "told",
]


@dataclass(frozen=True, slots=True)
class Row:
    """One box of the inspector.

    Attributes
    ----------
    path : str
        Its field in the plan
    label, hint, unit : str
        What stands around the box
    kind : str
        What sort of box
    text : str
        What stands in the box
    quantity : str
        Its quantity, for numbers
    standard : str
        Pipe standard, for bores; for a volume the dimension that changes with it
    options : tuple
        Value and name of each choice
    is_optional : bool
        Whether the box may be empty
    error : str
        Why what was typed was refused
    notice : str
        What the builder should know of what was typed
    same : str
        Its value in the reader's units, where the box has it in another unit, as it was typed
    strip : tuple of (float, float)
        Of spells: where each begins on a strip of the day, and how long it is, in hundredths
    """

    path: str
    label: str
    kind: Kind
    text: str
    hint: str = ""
    unit: str = ""
    quantity: str = ""
    standard: str = ""
    options: tuple[tuple[str, str], ...] = ()
    is_optional: bool = False
    error: str = ""
    notice: str = ""
    same: str = ""
    strip: tuple[tuple[float, float], ...] = ()

    @property
    def box(self) -> str:
        """The box's id in the page."""
        return "box-" + self.path.replace(".", "-").replace("+", "more")

    @property
    def is_lines(self) -> bool:
        """Whether its box has several lines of quantities."""
        return self.kind in get_args(LinesKind)

    @property
    def choices(self) -> tuple[str, ...]:
        """The values chosen, where several may be."""
        return tuple(self.text.split())
