"""Parts of a builder's own beside those that ship: what is asked of each kind, and its bounds."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from bathys.parts.bores import pipe_sizes, standards
from bathys.parts.media import MEDIA
from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.shelf.items import pipe_item
from bathys.units import System, UnreadableQuantity, read, show

__all__ = [
    "OWN_PART_KINDS",
    "BadOwnPart",
    "OwnField",
    "OwnPartKind",
    "ShelfPart",
    "offcuts_of",
    "read_own_part",
]

_LONGEST_NAME, _LONGEST = 80, 40


@dataclass(frozen=True, slots=True)
class OwnField:
    """Something that is asked of such a part.

    Attributes
    ----------
    name, label : str
        Its name in the data, and for people
    quantity : str
        What it measures; empty for one of the choices
    least, most : float
        Its bounds, in SI
    choices : tuple of (str, str)
        Value and words of each
    """

    name: str
    label: str
    quantity: str = ""
    least: float = 0.0
    most: float = 0.0
    choices: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class OwnPartKind:
    """A kind of part that a builder may keep.

    Attributes
    ----------
    key, title, singular : str
        Its name in the data, over its list, and of one
    hint : str
        What it is good for, in a sentence
    fields : tuple of OwnField
        What is asked, in order
    smaller, larger : str
        Fields the first of which must be smaller than the second; empty where none must
    """

    key: str
    title: str
    singular: str
    hint: str
    fields: tuple[OwnField, ...]
    smaller: str = ""
    larger: str = ""


@dataclass(frozen=True, slots=True)
class ShelfPart:
    """A part as a builder told it.

    Attributes
    ----------
    key, kind, name : str
        By which it is chosen, its kind, and its name for people
    values : mapping of str to (float or str)
        By field, in SI
    """

    key: str
    kind: str
    name: str
    values: Mapping[str, float | str]

    def number(self, field: str) -> float:
        """One of its figures, in SI: [m], [m³/s], [Pa], [W] or [-]."""
        return float(self.values[field])

    def word(self, field: str) -> str:
        """One of its choices."""
        return str(self.values[field])


class BadOwnPart(ValueError):
    """What was typed is no such part.

    Attributes
    ----------
    errors : dict of str
        Sentence by field
    """

    def __init__(self, errors: dict[str, str]) -> None:
        super().__init__("; ".join(errors.values()))
        self.errors = errors


OWN_PART_KINDS: dict[str, OwnPartKind] = {
    kind.key: kind
    for kind in (
        OwnPartKind(
            "air_pump",
            "Your air pumps",
            "air pump",
            "Chosen on any air pump of a plan.",
            (
                OwnField("max_flow", "Label flow, at no depth", "flow", 1e-6, 0.1),
                OwnField("max_pressure", "Greatest pressure, at no flow", "pressure", 100.0, 2e5),
                OwnField("power", "Power", "power", 0.1, 5000.0),
            ),
        ),
        OwnPartKind(
            "medium",
            "Your media",
            "medium",
            "Chosen on any bed of a plan. Void: fill a bucket with it dry, then fill up with "
            "water; the water over the bucket’s volume.",
            (
                OwnField("like", "Most like", choices=tuple((k, m.name) for k, m in MEDIA.items())),
                OwnField("void", "Void between its grains", "percent", 0.05, 0.95),
                OwnField("grain", "Smallest grain", "length", 0.0005, 0.1),
            ),
        ),
        OwnPartKind(
            "bore",
            "Your pipe and hose",
            "pipe or hose",
            "Chosen on any run of a plan. Measure both with a caliper.",
            (
                OwnField("inside", "Bore, inside", "length", 0.0011, 2.0),
                OwnField("outside", "Outside", "length", 0.0012, 2.2),
            ),
            "inside",
            "outside",
        ),
        OwnPartKind(
            "offcut",
            "Your offcuts of pipe",
            "offcut",
            "Cut lists use them before anything is bought. Do not count them again as pipe at "
            "hand.",
            (
                OwnField(
                    "pipe",
                    "Pipe",
                    choices=tuple(
                        (pipe_item(s, size.nominal).key, f"{size.nominal}, {s}")
                        for s in standards()
                        for size in pipe_sizes(s)
                    ),
                ),
                OwnField("length", "Length", "length", 0.05, 12.0),
                OwnField("count", "How many", "count", 1.0, 40.0),
            ),
        ),
        OwnPartKind(
            "wall_fitting",
            "Your wall fittings and seals",
            "wall fitting or seal",
            "Chosen for each hole its pipe goes through, under Build, Holes.",
            (
                OwnField(
                    "like",
                    "Most like",
                    choices=tuple((k, f.name) for k, f in WALL_FITTINGS.items()),
                ),
                OwnField("pipe", "Its pipe, outside", "length", 0.0012, 1.0),
                OwnField("hole", "Hole to drill, as stamped on it", "length", 0.003, 1.2),
            ),
        ),
    )
}
"""Kinds that may be kept, by their keys."""


def offcuts_of(own: Iterable[ShelfPart]) -> dict[str, tuple[float, ...]]:
    """Offcuts of pipe among a builder's own parts.

    Parameters
    ----------
    own : iterable of ShelfPart
        All that the builder has

    Returns
    -------
    dict of str to tuple of float
        Their lengths by the key of the pipe, [m]
    """
    found = dict[str, tuple[float, ...]]()
    for part in own:
        if part.kind == "offcut":
            lengths = (part.number("length"),) * round(part.number("count"))
            found[part.word("pipe")] = found.get(part.word("pipe"), ()) + lengths
    return found


def read_own_part(kind: OwnPartKind, typed: Mapping[str, str], units: System) -> ShelfPart:
    """A part as it was typed.

    Parameters
    ----------
    kind : OwnPartKind
        Its kind
    typed : mapping of str to str
        What was typed, by field, and its ``name``
    units : System
        The reader's units

    Returns
    -------
    ShelfPart
        The part, without a key

    Raises
    ------
    BadOwnPart
        With a sentence for each field
    """
    errors, values = dict[str, str](), dict[str, float | str]()
    name = typed.get("name", "").strip()
    if not 1 <= len(name) <= _LONGEST_NAME:
        errors["name"] = f"Give it a name of up to {_LONGEST_NAME} letters."
    elif not name.isprintable():
        errors["name"] = "It holds a letter that cannot be kept; type it again."
    for field in kind.fields:
        text = typed.get(field.name, "").strip()[:_LONGEST]
        if field.choices:
            if text not in dict(field.choices):
                errors[field.name] = "Choose one of the list."
            values[field.name] = text
            continue
        try:
            value = float(f"{read(text, field.quantity, units):.9g}")  # as exact as it is typed
            values[field.name] = value
        except UnreadableQuantity as error:
            errors[field.name] = str(error)
            continue
        if not field.least <= value <= field.most:
            errors[field.name] = (
                f"It must be between {show(field.least, field.quantity, units)} and "
                f"{show(field.most, field.quantity, units)}."
            )
    if kind.smaller and not errors and values[kind.smaller] >= values[kind.larger]:  # type: ignore[operator]
        errors[kind.larger] = "It must be wider outside than inside."
    if errors:
        raise BadOwnPart(errors)
    return ShelfPart("", kind.key, name, values)
