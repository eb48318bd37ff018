"""SI into text: two to three significant figures for results, all that was typed for inputs."""

import math
import re
from collections.abc import Mapping

from bathys.units.table import System, Unit, own_system, shown_in

__all__ = [
    "entry",
    "fill_equation",
    "fill_sentence",
    "in_unit",
    "show",
    "show_number",
    "show_tape",
    "unit_of",
]

_INCH = 0.0254  # [m]
_HOUR = 3600
_DAYS = 60 * 72  # from so many minutes on days are counted
_NOTHING = {"volume": 1e-5, "power": 0.05, "flow": 1e-8, "length": 5e-7}
"""A spoonful, a twentieth of a watt, a spoonful an hour, half a micron: as good as none."""
_LEAST_HEAD = 0.1  # a lower head is told as a length, in millimetres or inches [m]
_SLOT = re.compile(r"\{(\w+):(\w+)\}")


def unit_of(quantity: str, system: System) -> str:
    """Label of the unit a quantity is shown in.

    Parameters
    ----------
    quantity : str
        Name of the quantity, such as ``flow``
    system : System
        The reader's units

    Returns
    -------
    str
        Such as ``L/h``
    """
    return shown_in(quantity, system).label


def _in_unit(value: float, unit: Unit) -> float:
    return (value - unit.offset) / unit.factor


def _three_figures(value: float) -> str:
    if value == 0.0 or abs(value) < 1e-9:
        return "0"
    digits = 2 - math.floor(math.log10(abs(value)))
    rounded = round(value, digits)
    if abs(rounded) >= 100:
        return f"{rounded:,.0f}"
    text = f"{rounded:.{max(digits, 0)}f}"
    # What was typed or ruled to be 25 is 25, not 25.0; what is close to it keeps its figures.
    is_exact = abs(value - rounded) <= 1e-9 * abs(value)
    return text.rstrip("0").rstrip(".") if is_exact and "." in text else text


def _time(seconds: float) -> str:
    if seconds < 100.0:
        return f"{_three_figures(float(f'{seconds:.2g}'))} s"
    whole = round(seconds)
    if whole < 6000 and whole != _HOUR:
        return f"{whole // 60} min" + (f" {whole % 60:02d} s" if whole % 60 else "")
    minutes = round(seconds / 60.0)
    if minutes >= _DAYS:
        hours = round(seconds / _HOUR)
        return f"{hours // 24} days" + (f" {hours % 24} h" if hours % 24 else "")
    return f"{minutes // 60} h" + (f" {minutes % 60:02d} min" if minutes % 60 else "")


def _daytime(seconds: float) -> str:
    minutes = round(seconds / 60.0)
    return f"{minutes // 60}:{minutes % 60:02d}"


def show_number(value: float, quantity: str, system: System) -> str:
    """A result's number alone, in the unit shown, to three significant figures.

    Lengths are whole millimetres or tenths of an inch: nobody builds closer.

    Parameters
    ----------
    value : float
        The value, [SI]
    quantity : str
        Name of the quantity, such as ``flow``
    system : System
        The reader's units

    Returns
    -------
    str
        Such as ``1,240``
    """
    if abs(value) < _NOTHING.get(quantity, 0.0):
        return "0"
    shown = _in_unit(value, shown_in(quantity, system))
    is_metric = own_system(system, quantity) == "metric"
    if quantity == "length" and abs(shown) >= 10:
        return f"{shown:,.0f}" if is_metric else f"{shown:,.1f}"
    if quantity == "length" and abs(shown) >= 0.005:
        return f"{shown:.1f}" if is_metric else f"{shown:.2f}"
    if quantity in ("percent", "count", "angle"):
        return f"{shown:,.0f}"
    return _three_figures(shown)


def show(value: float | None, quantity: str, system: System) -> str:
    """A result with its unit.

    Parameters
    ----------
    value : float or None
        In the engine's unit; none where there is no such figure
    quantity : str
        A key of ``QUANTITIES``
    system : str
        The system shown, or a mix

    Returns
    -------
    str
        Text for people; a dash for none

    Examples
    --------
    >>> show(1 / 3600, "flow", "metric")
    '1,000 L/h'
    >>> show(754.0, "time", "metric")
    '12 min 34 s'
    >>> show(0.0044, "head", "metric")
    '4.4 mm'
    """
    if value is None or not math.isfinite(value):
        return "–"
    if quantity == "head" and 0.0 < abs(value) < _LEAST_HEAD:
        quantity = "length"
    if quantity == "time":
        return _time(value)
    if quantity == "daytime":
        return _daytime(value)
    if quantity == "temperature":
        shown = _in_unit(value, shown_in(quantity, system))
        return f"{shown:.1f} {unit_of(quantity, system)}"
    label = unit_of(quantity, system)
    gap = "" if label in ("°", "%", "") else " "
    return f"{show_number(value, quantity, system)}{gap}{label}"


def show_tape(value: float, system: System) -> str:
    """A length as a tape measure reads it: whole millimetres, or inches to a sixteenth, under one
    inch to a thirty-second.

    Parameters
    ----------
    value : float
        The length, [m]
    system : System
        The reader's units

    Returns
    -------
    str
        With its unit

    Examples
    --------
    >>> show_tape(0.8716, "us")
    '34 5/16 in'
    """
    if own_system(system, "length") == "metric":
        return show(value, "length", system)
    parts = 16 if abs(value) >= _INCH else 32
    whole, rest = divmod(round(abs(value) / _INCH * parts), parts)
    common = math.gcd(rest, parts)
    fraction = f"{rest // common}/{parts // common}" if rest else ""
    words = " ".join(w for w in (str(whole) if whole or not fraction else "", fraction) if w)
    return f"{'−' if value < 0.0 and (whole or rest) else ''}{words} in"


def entry(value: float, quantity: str, system: System) -> str:
    """An input's number alone, with every figure that a builder would type.

    Seven figures of a metric value; five of a US one, since most were typed in metric and would
    trail digits that mean nothing.

    Parameters
    ----------
    value : float
        The value, [SI]
    quantity : str
        Name of the quantity, such as ``flow``
    system : System
        The reader's units

    Returns
    -------
    str
        Such as ``1240``
    """
    if quantity == "daytime":
        return _daytime(value)
    shown = round(_in_unit(value, shown_in(quantity, system)), 9)
    return f"{shown:.7g}" if own_system(system, quantity) == "metric" else f"{shown:.5g}"


def in_unit(value: float, quantity: str, system: System) -> float:
    """A value in the unit it is shown in, for the axis of a chart.

    Parameters
    ----------
    value : float
        The value, [SI]
    quantity : str
        Name of the quantity, such as ``flow``
    system : System
        The reader's units

    Returns
    -------
    float
        The value, [that unit]
    """
    return _in_unit(value, shown_in(quantity, system))


def fill_equation(sentence: str, figures: Mapping[str, float], system: System) -> str:
    """An equation with its figures put in, each as it is shown anywhere else.

    Parameters
    ----------
    sentence : str
        The equation, with slots for its figures
    figures : mapping of str to float
        Its figures, in SI units
    system : System
        The reader's units

    Returns
    -------
    str
        The equation in the reader's units
    """
    return _SLOT.sub(lambda m: show(figures[m[1]], m[2], system), sentence)


def fill_sentence(
    sentence: str, figures: Mapping[str, float | str], system: System, names: Mapping[str, str]
) -> str:
    """A sentence with its figures put in: ``{name:quantity}`` becomes the shown figure.

    Two figures that differ never look the same: “12.5 kg … more than 12.5 kg” gets the digits that
    tell them apart.

    Parameters
    ----------
    sentence : str
        With slots; ``{P1:words}`` stands for words that somebody typed, put in as they are
    figures : mapping
        What goes into the slots: numbers in the engine's units, or words
    system : str
        The units to show them in
    names : mapping
        The names of the plan's parts by their ids, for slots that ``figures`` does not fill

    Returns
    -------
    str
        The sentence
    """
    slots = set(_SLOT.findall(sentence))
    numbers = {n: float(figures[n]) for n, q in slots if q != "words"}
    shown = {(n, q): show(numbers[n], q, system) for n, q in slots if q != "words"}
    for (name, quantity), text in tuple(shown.items()):
        alike = [
            n
            for n, q in shown
            if q == quantity and shown[n, q] == text and _differ(numbers[n], numbers[name])
        ]
        if alike and quantity in _FINER:
            for one in (name, *alike):
                shown[one, quantity] = _finely(
                    numbers[one], [numbers[n] for n in (name, *alike)], quantity, system
                )
    words = {(n, q): str(figures.get(n, names.get(n, n))) for n, q in slots if q == "words"}
    filled = shown | words
    return _SLOT.sub(lambda m: filled[m[1], m[2]], sentence)


_FINER = {
    "percent",
    "length",
    "head",
    "flow",
    "volume",
    "mass",
    "speed",
    "power",
    "per_hour",
    "ratio",
    "pressure_load",
}
_MOST_DIGITS = 7


def _differ(one: float, two: float) -> bool:
    return abs(one - two) > 1e-6 * max(abs(one), abs(two))


def _finely(value: float, among: list[float], quantity: str, system: System) -> str:
    """A figure with as many digits as tell it apart from others of its kind."""
    unit = shown_in(quantity, system)
    numbers = [_in_unit(v, unit) for v in among]
    usual = max(len(show_number(v, quantity, system).partition(".")[2]) for v in among)
    places = next(
        (
            p
            for p in range(usual, _MOST_DIGITS)
            if len({f"{n:.{p}f}" for n in numbers}) == len({f"{n:.9g}" for n in numbers})
        ),
        _MOST_DIGITS,
    )
    gap = "" if unit.label in ("°", "%", "") else " "
    return f"{_in_unit(value, unit):,.{places}f}{gap}{unit.label}"
