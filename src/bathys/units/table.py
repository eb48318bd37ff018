"""Quantities, the units each is shown in, and the words each unit is typed as."""

from dataclasses import dataclass
from typing import Literal

import pint

__all__ = [
    "FAMILIES",
    "QUANTITIES",
    "SYSTEMS",
    "TYPED",
    "Own",
    "Quantity",
    "System",
    "Unit",
    "mixed",
    "own_system",
    "shown_in",
]

Own = Literal["metric", "us"]
SYSTEMS: tuple[Own, ...] = ("metric", "us")
System = str
"""``metric``, ``us``, or a mix: one of them, a slash, and the families that are shown in the other,
as in ``metric/flow,volume``."""

FAMILIES: dict[str, tuple[str, tuple[str, ...]]] = {
    "length": ("lengths and heights", ("length", "head", "area", "speed", "slow_speed")),
    "flow": ("flows", ("flow",)),
    "volume": ("volumes", ("volume",)),
    "mass": ("weights and loads", ("mass", "pressure_load")),
    "temperature": ("temperatures", ("temperature",)),
}
"""Quantities that change their units together: what they are called, and which they are."""
_FAMILY = {quantity: family for family, (_, all_) in FAMILIES.items() for quantity in all_}


def own_system(units: System, quantity: str) -> Own:
    """The system one quantity is shown in.

    Parameters
    ----------
    units : str
        A system or a mix
    quantity : str
        A key of ``QUANTITIES``

    Returns
    -------
    {"metric", "us"}
        The mix's base for what it does not name

    Examples
    --------
    >>> own_system("metric/flow,volume", "flow"), own_system("metric/flow,volume", "length")
    ('us', 'metric')
    """
    base, _, others = units.partition("/")
    is_other = bool(others) and _FAMILY.get(quantity, "") in others.split(",")
    return "us" if (base == "us") != is_other else "metric"


def mixed(choices: dict[str, str]) -> System:
    """A mix from the system of each family.

    Parameters
    ----------
    choices : dict
        ``metric`` or ``us`` by key of ``FAMILIES``; what is not named is metric

    Returns
    -------
    str
        A plain system where all agree
    """
    base: Own = "us" if all(choices.get(f) == "us" for f in FAMILIES) else "metric"
    others = [f for f in FAMILIES if (choices.get(f) == "us") != (base == "us")]
    return f"{base}/{','.join(others)}" if others else base


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit: SI = factor × value + offset.

    Attributes
    ----------
    label : str
        As it is printed
    factor, offset : float
        Into the engine's unit of the quantity
    """

    label: str
    factor: float
    offset: float = 0.0


@dataclass(frozen=True, slots=True)
class Quantity:
    """A kind of quantity.

    Attributes
    ----------
    name : str
        For sentences: "this box wants a length"
    example : str
        Something a builder could type
    shown : dict
        The unit of each system
    """

    name: str
    example: str
    shown: dict[Own, Unit]


_registry: pint.UnitRegistry[float] = pint.UnitRegistry(cache_folder=None)


def _unit(label: str, expression: str, base: str) -> Unit:
    """A unit by its definition in pint; offset units by two points of their scale."""
    zero = float(_registry.Quantity(0.0, expression).to(base).magnitude)
    one = float(_registry.Quantity(1.0, expression).to(base).magnitude)
    return Unit(label, one - zero, zero)


# Typed words of each quantity: words, label, pint expression. The engine's unit comes first.
_DEFINITIONS: dict[str, tuple[str, list[tuple[str, str, str]]]] = {
    "length": (
        "m",
        [
            ("m metre metres meter meters", "m", "meter"),
            ("mm millimetre millimetres millimeters", "mm", "millimeter"),
            ("cm centimetre centimetres centimeters", "cm", "centimeter"),
            ('in inch inches " ″ ”', "in", "inch"),
            ("ft foot feet ' ′ ’", "ft", "foot"),
        ],
    ),
    "flow": (
        "m^3/s",
        [
            ("m3/s m³/s", "m³/s", "m^3/s"),
            ("l/h lph litres/h liters/h l/hr", "L/h", "liter/hour"),
            ("l/min lpm", "L/min", "liter/minute"),
            ("l/s", "L/s", "liter/second"),
            ("m3/h m³/h", "m³/h", "m^3/hour"),
            ("gal/h gph gallons/h gal/hr", "gal/h", "gallon/hour"),
            ("gal/min gpm", "gal/min", "gallon/minute"),
        ],
    ),
    "volume": (
        "m^3",
        [
            ("m3 m³", "m³", "m^3"),
            ("l litre litres liter liters", "L", "liter"),
            ("gal gallon gallons", "gal", "gallon"),
        ],
    ),
    "area": (
        "m^2",
        [
            ("m2 m²", "m²", "m^2"),
            ("cm2 cm²", "cm²", "cm^2"),
            ("mm2 mm²", "mm²", "mm^2"),
            ("in2 in² sqin", "in²", "inch^2"),
            ("ft2 ft² sqft", "ft²", "foot^2"),
        ],
    ),
    "surface": (
        "m^2",
        [("m2 m² sqm", "m²", "m^2"), ("ft2 ft² sqft", "ft²", "foot^2")],
    ),
    "pressure": (
        "Pa",
        [
            ("pa", "Pa", "pascal"),
            ("bar", "bar", "bar"),
            ("kpa", "kPa", "kilopascal"),
            ("psi", "psi", "psi"),
        ],
    ),
    "mass": ("kg", [("kg", "kg", "kilogram"), ("g", "g", "gram"), ("lb lbs", "lb", "pound")]),
    "power": ("W", [("w watt watts", "W", "watt"), ("kw", "kW", "kilowatt")]),
    "temperature": ("degC", [("c °c celsius", "°C", "degC"), ("f °f fahrenheit", "°F", "degF")]),
    "angle": ("degree", [("° deg degrees", "°", "degree")]),
    "speed": ("m/s", [(u, u, u) for u in ("m/s", "ft/s", "mm/s", "in/min")]),
    "clock": (
        "s",
        [
            ("s sec second seconds", "s", "second"),
            ("min minute minutes", "min", "minute"),
            ("h hr hour hours", "h", "hour"),
            ("d day days", "days", "day"),
            ("week weeks wk", "weeks", "week"),
        ],
    ),
    "percent": ("dimensionless", [("% percent", "%", "percent")]),
    "energy": ("kWh", [("kwh", "kWh", "kWh")]),
    "pressure_load": (
        "Pa",
        [
            ("kpa kn/m2 kn/m²", "kPa", "kilopascal"),
            ("kg/m2 kg/m²", "kg/m²", "kilogram_force/meter**2"),
            ("psf lb/ft2 lb/ft²", "lb/ft²", "pound_force/foot**2"),
        ],
    ),
}

TYPED: dict[str, dict[str, Unit]] = {
    quantity: {
        word: _unit(label, expression, base)
        for words, label, expression in rows
        for word in words.split()
    }
    for quantity, (base, rows) in _DEFINITIONS.items()
}
"""Units by quantity and typed word."""

_PLAIN = Unit("", 1.0)


def _shown(quantity: str, metric: str, us: str) -> dict[Own, Unit]:
    return {"metric": TYPED[quantity][metric], "us": TYPED[quantity][us]}


QUANTITIES: dict[str, Quantity] = {
    "length": Quantity("a length", "300 mm, 30 cm, 12 in or 7 ft 6", _shown("length", "mm", "in")),
    "head": Quantity("a height of water", "1.2 m", _shown("length", "m", "ft")),
    "flow": Quantity("a flow", "1200 L/h or 300 gph", _shown("flow", "l/h", "gal/h")),
    "volume": Quantity("a volume", "300 L or 80 gal", _shown("volume", "l", "gal")),
    "area": Quantity("an area", "12 cm2 or 2 in2", _shown("area", "cm2", "in2")),
    "surface": Quantity("a surface", "12 m2 or 130 ft2", _shown("surface", "m2", "ft2")),
    "pressure": Quantity("a pressure", "3 bar or 45 psi", _shown("pressure", "bar", "psi")),
    "mass": Quantity("a mass", "8 kg or 18 lb", _shown("mass", "kg", "lb")),
    "dose": Quantity(
        "a small mass",
        "20 g",
        {"metric": Unit("g", 1e-3), "us": Unit("oz", 0.028349523)},
    ),
    "power": Quantity("a power", "25 W", _shown("power", "w", "w")),
    "temperature": Quantity("a temperature", "22 C or 72 F", _shown("temperature", "c", "f")),
    "dissolved": Quantity("a concentration", "80", {s: Unit("mg/L", 1.0) for s in SYSTEMS}),
    "angle": Quantity("an angle", "35°", _shown("angle", "°", "°")),
    "speed": Quantity("a velocity", "0.8 m/s", _shown("speed", "m/s", "ft/s")),
    "slow_speed": Quantity("a velocity", "3 mm/s", _shown("speed", "mm/s", "in/min")),
    "energy": Quantity("an energy", "200 kWh", _shown("energy", "kwh", "kwh")),
    "ratio": Quantity("a plain number", "0.45", {"metric": _PLAIN, "us": _PLAIN}),
    "count": Quantity("a whole number", "3", {"metric": _PLAIN, "us": _PLAIN}),
    "percent": Quantity("a share", "45", {"metric": Unit("%", 0.01), "us": Unit("%", 0.01)}),
    "clock": Quantity("a time", "15 min or 2 h", _shown("clock", "min", "min")),
    "interval": Quantity("a time", "3 days or 12 h", _shown("clock", "d", "d")),
    "hours": Quantity("a time", "4 h or 90 min", _shown("clock", "h", "h")),
    "charge": Quantity("a charge", "40", {s: Unit("Ah", 1.0) for s in SYSTEMS}),
    "daytime": Quantity("a time of the day", "8:00 or 6 pm", {"metric": _PLAIN, "us": _PLAIN}),
    "price": Quantity("a price", "0.30", {"metric": _PLAIN, "us": _PLAIN}),
    "per_hour": Quantity("a rate", "1.5", {s: Unit("an hour", 1.0 / 3600.0) for s in SYSTEMS}),
    "reynolds": Quantity("a plain number", "5000", {"metric": _PLAIN, "us": _PLAIN}),
    "viscosity": Quantity("a viscosity", "1e-6", {s: Unit("mm²/s", 1e-6) for s in SYSTEMS}),
    "time": Quantity("a time", "90", {"metric": Unit("s", 1.0), "us": Unit("s", 1.0)}),
    "pressure_load": Quantity(
        "a load",
        "2 kPa, 200 kg/m2 or 40 psf",
        _shown("pressure_load", "kpa", "psf"),
    ),
}
"""Every quantity the engine names."""


def shown_in(quantity: str, units: System) -> Unit:
    """The unit a quantity is shown in.

    Parameters
    ----------
    quantity : str
        Name of the quantity, such as ``flow``
    units : System
        The reader's units

    Returns
    -------
    Unit
        The unit
    """
    return QUANTITIES[quantity].shown[own_system(units, quantity)]
