"""The form of a log entry: where it can be made, what is asked, what stands in each box."""

from collections.abc import Iterable, Mapping
from typing import Any

from bathys.evaluation import Evaluation
from bathys.fieldlog import EntryKind, expected_of
from bathys.units import System, show, unit_of

__all__ = ["entry_form"]

_WHERE_TO = ("moved", "to")


def entry_form(
    kind: EntryKind,
    found: Evaluation,
    units: System,
    typed: Mapping[str, str],
    errors: Mapping[str, str],
    where_to: Iterable[str] = (),
) -> dict[str, Any]:
    """What the form of a kind of entry shows.

    Parameters
    ----------
    kind : EntryKind
        The kind
    found : Evaluation
        The numbers of the plan
    units : System
        The reader's units
    typed : mapping of str to str
        What was typed, by field
    errors : mapping of str to str
        Sentences by field
    where_to : iterable of str
        What is put forward where it is asked where fish go

    Returns
    -------
    dict of str to object
        ``kind``, its ``parts``, its ``boxes``, and what is timed by ``taps``
    """
    names, chosen = found.plan.names, typed.get("part", "")
    return {
        "kind": kind,
        "parts": [
            {
                "id": part,
                "name": names.get(part, "the whole layout"),
                "expected": _expected(kind, part, found, units),
                "is_chosen": part == chosen,
            }
            for part in kind.parts(found)
        ],
        "boxes": [
            {
                "id": f"entry-{kind.key}-{f.name}",
                "name": f.name,
                "label": f.label,
                "unit": unit_of(f.quantity, units) if f.quantity else "",
                "typed": typed.get(f.name, _usual(f.usual, f.quantity, units)),
                "error": errors.get(f.name, ""),
                "is_many": f.is_many,
                "is_needed": f.is_needed,
                "put_forward": list(where_to) if (kind.key, f.name) == _WHERE_TO else [],
            }
            for f in kind.fields
        ],
        "taps": ";".join(f"{words}|entry-{kind.key}-{field}" for words, field in kind.taps),
        "errors": errors,
        "at": typed.get("at", ""),
        "note": typed.get("note", ""),
    }


def _usual(usual: str, quantity: str, units: System) -> str:
    """What stands in a box at first: a bucket of the reader's units."""
    if quantity == "volume" and usual and not unit_of(quantity, units).startswith("L"):
        return "2 gal"
    return usual


def _expected(kind: EntryKind, part: str, found: Evaluation, units: System) -> str:
    expected = expected_of(kind.key, part, found)
    return show(expected.value, kind.measures, units) if expected is not None else ""
