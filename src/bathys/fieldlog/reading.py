"""An entry as it was typed, and what it says in SI."""

import math
import re
from collections.abc import Mapping
from typing import Any

from bathys.fieldlog.entries import EntryField, EntryKind
from bathys.units import System, UnreadableQuantity, read, show

__all__ = ["BadEntry", "read_entry"]

Values = dict[str, float | str | list[float]]

_STEPPED = ("dissolved", "ratio")  # what kits tell in steps
_BETWEEN = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)$")
_LONGEST = 500
_MOST_TIMES = 10


class BadEntry(ValueError):
    """An entry that says nothing, or what cannot be.

    Attributes
    ----------
    errors : dict of str to str
        A sentence by field
    """

    def __init__(self, errors: dict[str, str]) -> None:
        super().__init__("; ".join(errors.values()))
        self.errors = errors


def read_entry(
    kind: EntryKind, typed: Mapping[str, str], units: System, spoon: float | None = None
) -> Values:
    """What an entry says.

    Parameters
    ----------
    kind : EntryKind
        Its kind
    typed : mapping of str to str
        What was typed, by field
    units : System
        The reader's units
    spoon : float, optional
        What a spoon of feed weighs, by the last time it was weighed, [kg]

    Returns
    -------
    dict of str to (float, str or list of float)
        By field, in SI; what was left empty is left out. A figure between two steps of a kit, as in
        20-40, is their middle, with its spread beside it as ``<field>_spread``

    Raises
    ------
    BadEntry
        With a sentence for each field that is wrong
    """
    values: Values = {}
    errors: dict[str, str] = {}
    for asked in kind.fields:
        text = "".join(c for c in typed.get(asked.name, "").strip()[:_LONGEST] if c.isprintable())
        if not text:
            if asked.is_needed:
                errors[asked.name] = "This is needed."
            continue
        between = _BETWEEN.match(text) if asked.quantity in _STEPPED else None
        try:
            if between is not None:
                low, high = (_value(asked, step, units) for step in between.groups())
                values |= _between(asked, low, high)
                continue
            values[asked.name] = _value(asked, text, units)
        except (UnreadableQuantity, BadEntry) as error:
            errors[asked.name] = str(error)
    if kind.key == "feed" and "mass" not in values and not errors:
        _count_spoons(values, spoon, errors)
    if not errors and not values:
        errors[kind.fields[0].name] = "Fill in one of them at the least."
    if errors:
        raise BadEntry(errors)
    return values


def _between(asked: EntryField, low: Any, high: Any) -> Values:
    """A figure that lies anywhere between two steps."""
    if high <= low:
        raise BadEntry({asked.name: "Write the smaller step first, as in 20-40."})
    middle, spread = 0.5 * (low + high), (high - low) / math.sqrt(12.0)
    return {asked.name: middle, f"{asked.name}_spread": spread}


def _count_spoons(values: Values, spoon: float | None, errors: dict[str, str]) -> None:
    if "spoons" not in values:
        errors["mass"] = "Tell how much, or how many spoons."
    elif spoon is None:
        errors["spoons"] = "Weigh a spoon or a handful once: then its count is enough."
    else:
        values["mass"] = float(str(values["spoons"])) * spoon


def _value(asked: EntryField, text: str, units: System) -> float | str | list[float]:
    if not asked.quantity:
        return text
    if not asked.is_many:
        return _bounded(asked, read(text, asked.quantity, units), units)
    times = text.replace(";", " ").split()
    if len(times) > _MOST_TIMES:
        raise BadEntry({asked.name: f"At most {_MOST_TIMES}."})
    return [_bounded(asked, read(one, asked.quantity, units), units) for one in times]


def _bounded(asked: EntryField, value: float, units: System) -> float:
    if asked.quantity == "count" and value != round(value):
        raise BadEntry({asked.name: "It must be a whole number."})
    if not asked.least <= value <= asked.most:
        low, high = (show(x, asked.quantity, units) for x in (asked.least, asked.most))
        raise BadEntry({asked.name: f"It must lie between {low} and {high}."})
    return value
