"""What was typed into a row, read back as an edit of the plan."""

import re
from dataclasses import replace
from typing import Any

from bathys.edits import (
    Change,
    EditRefused,
    apply_edits,
    lead_elsewhere,
    set_fitting_count,
    set_value,
    set_volume,
    switch_kind,
)
from bathys.plan import Plan
from bathys.plan.base import LONGEST_TYPED
from bathys.units import System, UnreadableQuantity, entry, own_unit, read, show, unit_of
from bathys_web.plans.inspector.bores import read_bore
from bathys_web.plans.inspector.lines import LINES
from bathys_web.plans.inspector.row import Row
from bathys_web.plans.inspector.rows import find_row

__all__ = ["apply_row"]

_LONGEST_NUMBER = 60  # letters that are kept of a number
_NUMBERS = ("number", "hole", "volume", "bore")
_BARE = re.compile(r"[-+−]?[\d\s.,/½¼¾⅛⅜⅝-]+")  # a number with no unit


def _number(row: Row, units: System) -> float | None:
    if row.is_optional and not row.text.strip():
        return None
    try:
        return read(row.text, row.quantity, units)
    except UnreadableQuantity as error:
        raise EditRefused(str(error)) from None


def _stands(standing: Row | None, row: Row) -> bool:
    """Whether what was typed is what stood there: rounded, it must not move the plan."""
    return (
        standing is not None
        and standing.kind in ("number", "hole", *LINES, "volume", "told", "bore")
        and row.text.split() == standing.text.split()
        and row.standard == standing.standard
    )


def _with_unit(standing: Row | None, row: Row) -> Row:
    """A bare number is in the unit that stood in its box: 700 over 600 gph is 700 gph."""
    if standing is None or not standing.same or not _BARE.fullmatch(row.text.strip()):
        return row
    return replace(row, text=f"{row.text.strip()} {own_unit(standing.text)}")


def apply_row(plan: Plan, row: Row, units: System) -> Change:
    """Read what was typed into a row, and edit the plan by it.

    Parameters
    ----------
    plan : Plan
        The plan before
    row : Row
        The row, with what was typed in it; values split by spaces where several may be chosen
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    Change
        The plan after, and what changed

    Raises
    ------
    EditRefused
        With a sentence for the builder
    """
    standing = find_row(plan, row.path, units)
    if _stands(standing, row):
        return Change(plan, row.path, row.text, row.text)
    row = _with_unit(standing, row)
    try:
        if row.kind == "bore":
            bore = read_bore(row.standard, row.text, units)
            value = bore.get("diameter")
            return set_value(plan, row.path, bore, _worth_keeping(row, value, units))
        if row.kind == "count":
            return _set_count(plan, row)
        if row.kind == "switch":
            return switch_kind(plan, row.path.removesuffix(".kind"), row.text)
        if row.kind == "hole" and not row.text.strip():
            return set_value(plan, row.path.removesuffix(".height"), None)
        if row.kind == "pick":
            return _put_on(plan, row)
        if row.kind == "link":
            return _lead(plan, row)
        if row.kind == "volume":
            volume = read(row.text, row.quantity, units)
            typed = _worth_keeping(row, volume, units)
            return set_volume(plan, row.path.split(".")[1], volume, row.standard, typed)
        value = _value(row, units)
        return set_value(plan, row.path, value, _worth_keeping(row, value, units))
    except UnreadableQuantity as error:
        raise EditRefused(str(error)) from None
    except EditRefused as refused:
        if refused.bound is None or not row.quantity:
            raise
        words, limit, given = refused.bound
        limit_words, given_words = (show(v, row.quantity, units) for v in (limit, given))
        raise EditRefused(f"It must be {words} {limit_words}, and is {given_words}.") from None


def _worth_keeping(row: Row, value: Any, units: System) -> str:
    """What was typed of a number or of lines of them, unless the box will say just that."""
    text = row.text.strip()
    if row.kind in LINES and len(text) <= LONGEST_TYPED and LINES[row.kind].says_units(text):
        shown = LINES[row.kind].write((tuple(pair.values()) for pair in value), units)
        return "" if text == shown else text
    if row.kind not in _NUMBERS or value is None or len(text) > _LONGEST_NUMBER:
        return ""
    quantity = "length" if row.kind == "bore" else row.quantity
    unit = unit_of(quantity, units)
    text = f"{text} {unit}".strip() if _BARE.fullmatch(text) else text
    shown = entry(float(value), quantity, units)
    return "" if text in (f"{shown} {unit}".strip(), f"{shown}{unit}") else text


def _put_on(plan: Plan, row: Row) -> Change:
    """One fitting more, of a kind that was not on the run; nothing if none was picked."""
    if not row.text:
        return Change(plan, row.path, "", "")
    return set_fitting_count(plan, row.path.split(".")[1], row.text, 1)


def _lead(plan: Plan, row: Row) -> Change:
    """Name another part, or none."""
    if row.text not in dict(row.options):
        raise EditRefused(f"“{row.text}” is not one of the choices.")
    group, id_, field = row.path.split(".")
    if group == "runs" and field in ("from", "to"):
        edits = lead_elsewhere(plan, id_, field, row.text)  # type: ignore[arg-type]
        return Change(apply_edits(plan, edits) if edits else plan, row.path, None, row.text)
    return set_value(plan, row.path, row.text or None)


def _value(row: Row, units: System) -> Any:
    if row.kind in ("number", "hole"):
        return _number(row, units)
    if row.kind in LINES:
        return LINES[row.kind].parse(row.text, units)
    if row.kind == "schools":
        return row.text.split()
    if row.kind == "choice" and row.text not in dict(row.options):
        raise EditRefused(f"“{row.text}” is not one of the choices.")
    if row.kind == "choice" and dict(row.options).keys() == {"yes", "no"}:
        return row.text == "yes"
    return row.text.strip()


def _set_count(plan: Plan, row: Row) -> Change:
    text = row.text.strip()
    if not text.isdecimal() or len(text) > 4:
        raise EditRefused("This box wants a whole number of pieces, 0 for none.")
    words = row.path.split(".")
    if "fittings" not in words:
        return set_value(plan, row.path, int(text))
    return set_fitting_count(plan, words[1], words[3], int(text))
