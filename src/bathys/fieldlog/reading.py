"""An entry as it was typed, and what it says in SI."""

from collections.abc import Mapping

from bathys.fieldlog.kinds import EntryField, EntryKind
from bathys.units import System, UnreadableQuantity, read, show

__all__ = ["BadEntry", "read_entry"]

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
    kind: EntryKind, typed: Mapping[str, str], units: System
) -> dict[str, float | str | list[float]]:
    """What an entry says.

    Parameters
    ----------
    kind : EntryKind
        Its kind
    typed : mapping of str to str
        What was typed, by field
    units : System
        The reader's units

    Returns
    -------
    dict of str to (float, str or list of float)
        By field, in SI; what was left empty is left out

    Raises
    ------
    BadEntry
        With a sentence for each field that is wrong
    """
    values: dict[str, float | str | list[float]] = {}
    errors: dict[str, str] = {}
    for asked in kind.fields:
        text = "".join(c for c in typed.get(asked.name, "").strip()[:_LONGEST] if c.isprintable())
        if not text:
            if asked.is_needed:
                errors[asked.name] = "This is needed."
            continue
        try:
            values[asked.name] = _value(asked, text, units)
        except (UnreadableQuantity, BadEntry) as error:
            errors[asked.name] = str(error)
    if not errors and not values:
        errors[kind.fields[0].name] = "Fill in one of them at the least."
    if errors:
        raise BadEntry(errors)
    return values


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
