"""A brief as it is typed, and the brief that it makes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Self

from bathys.design import AIMS, LAYOUTS, PLACES, BadBrief, DesignBrief, brief_from_data
from bathys.parts.bores import standards
from bathys.parts.containers import Container
from bathys.parts.media import MEDIA
from bathys.parts.practice import SCHOOLS
from bathys.parts.species import SPECIES
from bathys.plan.loading import Fault
from bathys.units import System, UnreadableQuantity, own_system, read, show
from bathys_web.plans.measured import Measured

__all__ = ["ANY_LAYOUT", "BriefForm", "Question"]

ANY_LAYOUT = "any"
"""Chosen where all layouts are to be held against each other."""

_WISHES = {
    "tank": "Fish tank",
    "beds": "Grow beds",
    "rafts": "Rafts",
    "side_tanks": "Side tanks",
}
_SIZES = ("across", "width", "tall")
_LONGEST = 80
_USUAL = {
    "tank_count": "1",
    "tank_container": "round-1000",
    "beds_count": "2",
    "beds_container": "tote-1000-bed",
    "rafts_count": "0",
    "rafts_container": "liner-bed",
    "side_tanks_count": "0",
    "side_tanks_container": "aquarium-180",
    "fish": "",
    "days_away": "3",
    "place": "yard",
    "room_length": "",
    "room_width": "",
    "hot_air": "",
    "tariff": "0.30",
    "own_pump": "",
    "budget": "",
    "most_watts": "",
    "most_load": "",
    "is_quiet": "no",
    "power_cut": "",
    "species": "warm",
    "medium": "expanded_clay",
    "school": "tank",
    "pipe": "ASTM D1785 Schedule 40",
    "matters": "power",
    "layout": "split_flow",
    "name": "New plan",
}
_METRES = {"dig": 0.4, "highest": 1.6, "apart": 1.0}
_QUANTITIES = {
    "dig": "length",
    "highest": "length",
    "apart": "length",
    "temperature": "temperature",
    "fish": "mass",
    "days_away": "count",
    "room_length": "length",
    "room_width": "length",
    "hot_air": "temperature",
    "tariff": "price",
    "budget": "price",
    "most_watts": "power",
    "most_load": "pressure_load",
    "power_cut": "hours",
}
_OPEN = (
    "fish",
    "room_length",
    "room_width",
    "hot_air",
    "budget",
    "most_watts",
    "most_load",
    "power_cut",
)  # may be left empty
_CHOICES: dict[str, dict[str, str]] = {
    "layout": {ANY_LAYOUT: "", **{key: layout.name for key, layout in LAYOUTS.items()}},
    "matters": {str(aim): words for aim, words in AIMS.items()},
    "species": {key: kind.called for key, kind in SPECIES.items()},
    "medium": {key: kind.name for key, kind in MEDIA.items()},
    "school": dict(SCHOOLS),
    "place": {key: place.name for key, place in PLACES.items()},
    "is_quiet": {"no": "no matter", "yes": "yes: nothing may gurgle"},
    "pipe": {name: name for name in standards()},
}


@dataclass(frozen=True, slots=True)
class Question:
    """A box of the form.

    Attributes
    ----------
    name, typed, error : str
        Its name, what stands in it, and what is wrong with that
    choices : dict of str to str
        Words of each value; empty for a box that is typed into
    """

    name: str
    typed: str
    error: str
    choices: dict[str, str]


@dataclass(frozen=True, slots=True)
class BriefForm:
    """The form as it stands.

    Attributes
    ----------
    typed, errors : dict of str to str
        What was typed by field, and a sentence for each that is wrong
    brief : DesignBrief or None
        The brief; none where something is wrong
    pumps : tuple of str
        Names of the builder's own pumps
    """

    typed: dict[str, str]
    errors: dict[str, str]
    brief: DesignBrief | None
    pumps: tuple[str, ...] = ()

    @property
    def is_any(self) -> bool:
        """Whether all layouts are held against each other."""
        return self.typed["layout"] == ANY_LAYOUT

    def question(self, name: str) -> Question:
        """One of its boxes."""
        known = _CHOICES.get(name, {})
        if name == "own_pump":
            known = {"": "none: choose one for me", **{pump: pump for pump in self.pumps}}
        return Question(name, self.typed.get(name, ""), self.errors.get(name, ""), known)

    @classmethod
    def of(
        cls,
        told: Mapping[str, str],
        units: System,
        own: Sequence[Container],
        pumps: Sequence[str] = (),
    ) -> Self:
        """From what a form says; what it does not say is as usual.

        Parameters
        ----------
        told : mapping of str to str
            What was typed, by field
        units : System
            The reader's units
        own : sequence of Container
            The builder's own containers
        pumps : sequence of str
            Names of their own pumps

        Returns
        -------
        BriefForm
            The form
        """
        usual = {
            **_USUAL,
            **{n: show(x, "length", units).replace(",", "") for n, x in _METRES.items()},
            "temperature": show(24.0, "temperature", units),
        }
        sizes = [f"{wish}_{size}" for wish in _WISHES for size in _SIZES]
        fields = (*usual, *sizes)
        typed = {f: _plain(told.get(f, usual.get(f, ""))) for f in fields}
        errors = dict[str, str]()
        data: dict[str, Any] = {"units": own_system(units, "length")}
        for name, choices in _CHOICES.items():
            if typed[name] not in choices:
                errors[name] = "Choose one of the list."
        for name, quantity in _QUANTITIES.items():
            data[name] = _read(typed, errors, name, quantity, units)
        for wish in _WISHES:
            data[wish] = _wish(typed, errors, wish, units, own)
        layout = typed["layout"]
        data |= {
            "name": typed["name"] or _USUAL["name"],
            "layout": next(iter(LAYOUTS)) if layout == ANY_LAYOUT else layout,
            "species": typed["species"],
            "medium": typed["medium"],
            "schools": [typed["school"]],
            "pipe": typed["pipe"],
            "matters": typed["matters"],
            "place": typed["place"],
            "is_quiet": typed["is_quiet"] == "yes",
            "own_pump": typed["own_pump"],
        }
        if typed["own_pump"] and typed["own_pump"] not in pumps:
            errors["own_pump"] = "It is not under Parts any more: choose another, or none."
        if errors:
            return cls(typed, errors, None, tuple(pumps))
        try:
            return cls(typed, errors, brief_from_data(data), tuple(pumps))
        except BadBrief as bad:
            for fault in bad.faults:
                field = _field_of(fault.path)
                errors.setdefault(field, _wrong(field, fault, units))
            return cls(typed, errors, None, tuple(pumps))


def _plain(text: object) -> str:
    """What was typed, without letters that no box can show and no database keeps."""
    return "".join(c for c in str(text).strip()[:_LONGEST] if c.isprintable())


def _read(
    typed: Mapping[str, str], errors: dict[str, str], name: str, quantity: str, units: System
) -> float | int | None:
    if name in _OPEN and not typed[name]:
        return None
    try:
        value = read(typed[name], quantity, units)
    except UnreadableQuantity as error:
        errors[name] = str(error)
        return None
    return round(value) if quantity == "count" else value


def _wish(
    typed: Mapping[str, str],
    errors: dict[str, str],
    wish: str,
    units: System,
    own: Sequence[Container],
) -> dict[str, Any]:
    """Vessels of one job as plan data: measured ones before those of the list."""
    try:
        count = round(read(typed[f"{wish}_count"] or "0", "count", units))
    except UnreadableQuantity as error:
        errors[f"{wish}_count"] = str(error)
        return {}
    measured = Measured.of({size: typed[f"{wish}_{size}"] for size in _SIZES}, units)
    errors.update({f"{wish}_{size}": words for size, words in measured.errors.items()})
    if measured.shape is not None:
        return {"count": count, "shape": measured.shape}
    key = typed[f"{wish}_container"]
    mine = next((c for c in own if c.key == key), None)
    return {"count": count, "shape": mine.shape} if mine else {"count": count, "container": key}


def _wrong(field: str, fault: Fault, units: System) -> str:
    """A fault in a sentence, with figures in the reader's units."""
    quantity = "count" if field.endswith("_count") else _QUANTITIES.get(field)
    if fault.bound is None or quantity is None:
        return fault.sentence
    words, limit, given = fault.bound
    return (
        f"It must be {words} {show(limit, quantity, units)}, and is {show(given, quantity, units)}."
    )


def _field_of(path: str) -> str:
    """The box that a fault of the brief belongs to."""
    first, _, rest = path.partition(".")
    if first in _WISHES:
        return f"{first}_count" if rest == "count" else f"{first}_container"
    return {"schools": "school", "": "layout"}.get(first, first)
