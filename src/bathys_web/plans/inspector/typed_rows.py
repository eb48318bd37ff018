"""A row with what was typed for it in the place of its value."""

import math
from dataclasses import replace

from bathys.units import System, UnreadableQuantity, own_unit, read, show
from bathys_web.plans.inspector.lines import LINES
from bathys_web.plans.inspector.row import Row

__all__ = ["as_typed"]

_HOSE = "inside"
_SAME = 1e-4  # relative: what was typed and what is stored are told as one within this


def _shown(row: Row, units: System) -> str:
    if row.quantity == "daytime":
        return row.text
    return show(read(row.text, row.quantity, units), row.quantity, units)


def _are_one(one: str, other: str, row: Row, units: System) -> bool:
    """Whether two texts say the same in the box of a row."""
    quantity = "length" if row.kind == "bore" else row.quantity
    try:
        values = [read(text, quantity, units) for text in (one, other)]
    except KeyError:  # of a box that holds no quantity
        return False
    except UnreadableQuantity:
        return False
    return math.isclose(*values, rel_tol=_SAME, abs_tol=1e-12)


def as_typed(row: Row, typed: str, units: System) -> Row:
    """A row as it was typed, in its own unit and digits. Of older texts the unit is not known, and
    a file may have been edited by hand: those are only told.

    Parameters
    ----------
    row : Row
        The row with the value as the plan has it
    typed : str
        What was typed; empty for nothing
    units : System
        The reader's units

    Returns
    -------
    Row
        The row to show
    """
    if not typed:
        return row
    if row.kind in LINES:
        return replace(row, text=typed) if LINES[row.kind].are_one(typed, row.text, units) else row
    is_same = _are_one(typed, row.text, row, units)
    if row.kind == "bore":
        return replace(row, text=typed) if is_same and row.standard == _HOSE else row
    says_unit = own_unit(typed) or row.quantity == "daytime"
    if row.kind in ("number", "hole", "volume") and says_unit and is_same:
        number = typed.removesuffix(own_unit(typed)).rstrip()
        if not own_unit(number) and _are_one(typed, number, row, units):
            return replace(row, text=number)
        return replace(row, text=typed, unit="", same=_shown(row, units))
    unbroken = typed.replace(" ", "\u00a0")
    return replace(row, hint=f"{row.hint} Typed as {unbroken}.".strip())
