"""An entry as it was typed, and what it says in SI."""

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from bathys.fieldlog.entries import EntryField, EntryKind
from bathys.plan.model import Plan
from bathys.units import System, UnreadableQuantity, read, show, unit_of

__all__ = ["BadEntry", "FishBounds", "fish_bounds_of", "read_entry"]

Values = dict[str, float | str | list[float]]

_STEPPED = ("dissolved", "ratio")  # what kits tell in steps
_BETWEEN = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)$")
_LONGEST = 500
_MOST_TIMES = 10
_MOST_FED = 0.1  # of what fish weigh when grown, at once (assumed) [-]
_MOST_GROWN = 3.0  # times what one weighs when grown (assumed) [-]
_WEIGHED = ("netted", "counted", "came", "moved", "caught")  # kinds that weigh fish
_IS_NUMBER = re.compile(r"^\d+([.,]\d+)?$")


@dataclass(frozen=True, slots=True)
class FishBounds:
    """What fish cannot eat or weigh.

    Attributes
    ----------
    feed : float
        More than this at once nobody feeds, [kg]
    each : float
        More than this none of them weighs, [kg]
    """

    feed: float
    each: float


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
    kind: EntryKind,
    typed: Mapping[str, str],
    units: System,
    spoon: float | None = None,
    fish: FishBounds | None = None,
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
    fish : FishBounds, optional
        What these fish cannot eat or weigh, from :func:`fish_bounds_of`

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
    if fish is not None and "mass" in values and not errors:
        told = _beyond_fish(kind, values, fish, units)
        number = typed.get("mass", "").strip()
        if told:
            is_slip = _IS_NUMBER.match(number) and unit_of("mass", units) == "kg"
            grams = f" If you mean grams, type {number} g." if is_slip else ""
            errors["mass" if number else "spoons"] = told + grams
    if not errors and not values:
        errors[kind.fields[0].name] = "Fill in one of them at the least."
    if errors:
        raise BadEntry(errors)
    return values


def fish_bounds_of(plan: Plan, part: str) -> FishBounds | None:
    """What fish cannot eat or weigh: a slip, such as grams typed for kilograms.

    Parameters
    ----------
    plan : Plan
        The plan
    part : str
        Id of the fish

    Returns
    -------
    FishBounds or None
        By what they weigh when grown; None for what the plan has not
    """
    own = next((c for c in plan.fish if c.id == part and c.mass_at_harvest > 0.0), None)
    if own is None:
        return None
    return FishBounds(_MOST_FED * own.mass_at_harvest, _MOST_GROWN * own.harvest_each)


def _beyond_fish(kind: EntryKind, values: Values, fish: FishBounds, units: System) -> str:
    """Why fish cannot have eaten or weighed so much; empty if they can."""
    mass, count = float(str(values["mass"])), float(str(values.get("count", 0.0)))
    if kind.key == "feed" and mass > fish.feed:
        most = show(fish.feed, "mass", units)
        return f"More than a tenth of what these fish weigh when grown: {most}."
    if kind.key in _WEIGHED and count > 0.0 and mass > count * fish.each:
        most = show(fish.each, "mass", units)
        return f"More than three times what such a fish weighs when grown: {most} each."
    return ""


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
