"""Typed text into SI: "2 in", "600 gph", "30 cm", "1 1/2", "7 ft 6"."""

import math
import re

from bathys.units.table import QUANTITIES, TYPED, System, Unit, shown_in

__all__ = ["UnreadableQuantity", "own_unit", "parse_number", "read"]

_FRACTIONS = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8"}
_NUMBER = r"(?:\d+\s+\d+/\d+|\d+-\d+/\d+|\d+/\d+|\d+\.?\d*(?:e[+-]?\d+)?|\.\d+)"
_PIECE = re.compile(rf"\s*(?P<number>{_NUMBER})\s*(?P<unit>[^\d\s.+-][^\s\d]*[²³23]?(?:/[a-z]+)?)?")
_COMMA = re.compile(r"(?<![\d,])(\d+),(\d+)(?![\d,])")
_THOUSANDS = 3  # figures after a comma that may part thousands
_LONGEST = 60
_DAYTIME = re.compile(
    r"(?P<hour>\d{1,2})(?:[:.](?P<minute>[0-5]\d))?\s*(?P<half>am|pm)?", re.IGNORECASE
)
_MIDNIGHT = 24  # o'clock, as the end of a day


class UnreadableQuantity(ValueError):
    """Text that is no quantity of the kind asked for; its message is a sentence."""


def parse_number(text: str) -> float:
    """A number as builders write it.

    Parameters
    ----------
    text : str
        Such as ``1.5``, ``1 1/2``, ``1-1/2`` or ``3/4``

    Returns
    -------
    float
        Its value, [-]

    Raises
    ------
    UnreadableQuantity
        If a fraction has nothing under its bar

    Examples
    --------
    >>> parse_number("1 1/2")
    1.5
    """
    total = 0.0
    for part in re.split(r"[\s-]+", text.strip()) if "/" in text else [text]:
        top, bar, bottom = part.partition("/")
        if bar and float(bottom) == 0.0:
            raise UnreadableQuantity(f"“{text}” has nothing under its fraction bar.")
        total += float(top) / float(bottom) if bar else float(top)
    return total


_TYPED_AS = {
    "head": "length",
    "slow_speed": "speed",
    "interval": "clock",
    "hours": "clock",
    "dose": "mass",
}
"""Quantities whose units are those of another."""


def _find_unit(word: str, quantity: str) -> Unit:
    known = TYPED.get(_TYPED_AS.get(quantity, quantity), {})
    found = known.get(word) or known.get(word.lower())
    if found is not None:
        return found
    kind = QUANTITIES[quantity]
    for other, words in TYPED.items():
        if word.lower() in words:
            raise UnreadableQuantity(
                f"“{word}” measures {QUANTITIES[other].name}; "
                f"this box wants {kind.name}, such as {kind.example}."
            )
    raise UnreadableQuantity(f"“{word}” is not a unit known here; try {kind.example}.")


def _with_points(text: str) -> str:
    """Text with a point where a comma can only be a decimal one: “0,42”, “1,16 m”.

    Raises
    ------
    UnreadableQuantity
        Where it might as well part thousands, as in “1,200”
    """
    commas = _COMMA.findall(text)
    if len(commas) != text.count(",") or ("." in text and commas):
        raise UnreadableQuantity(f"The comma in “{text}” cannot be read; write 1.5 or 1500.")
    for whole, part in commas:
        if len(part) == _THOUSANDS and whole.lstrip("0"):
            raise UnreadableQuantity(
                f"“{whole},{part}” can mean two things: write {whole}{part} or {whole}.{part}."
            )
    return _COMMA.sub(r"\1.\2", text)


def _tidy(text: str, quantity: str) -> tuple[float, str]:
    """Sign and bare text, or a sentence why not."""
    for mark, plain in _FRACTIONS.items():
        text = text.replace(mark, plain)
    text = text.replace("−", "-").strip()
    kind = QUANTITIES[quantity]
    if not text:
        raise UnreadableQuantity(f"This box is empty; it wants {kind.name}: {kind.example}.")
    if len(text) > _LONGEST:
        raise UnreadableQuantity(f"That is too long to be {kind.name}; try {kind.example}.")
    text = _with_points(text)
    text = re.sub(r"\bper\b\s*", "/", text)
    text = re.sub(r"\s*/\s*(?=[A-Za-z])", "/", text)
    text = re.sub(r"/hours?\b|/hr\b", "/h", text)
    sign = -1.0 if text.startswith("-") else 1.0
    return sign, text.lstrip("+-").strip()


def _daytime(text: str) -> float:
    """Seconds after midnight of a time of the day: ``8:00``, ``6 pm``, ``18.30``."""
    found = _DAYTIME.fullmatch(text)
    hour = int(found["hour"]) if found else _MIDNIGHT + 1
    half = (found["half"] or "").lower() if found else ""
    if half and not 1 <= hour <= _MIDNIGHT // 2:
        hour = _MIDNIGHT + 1
    elif half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    minute = int(found["minute"] or 0) if found else 0
    if 60 * hour + minute > 60 * _MIDNIGHT:
        raise UnreadableQuantity(f"“{text}” is no time of the day; try 8:00 or 6 pm.")
    return 60.0 * (60.0 * hour + minute)


def own_unit(text: str) -> str:
    """The unit that a typed quantity names first.

    Parameters
    ----------
    text : str
        What was typed

    Returns
    -------
    str
        As it was typed; empty for a bare number, or for what is no quantity

    Examples
    --------
    >>> own_unit("600 gph"), own_unit("7 ft 6"), own_unit("1 1/2")
    ('gph', 'ft', '')
    """
    piece = _PIECE.match(_COMMA.sub(r"\1.\2", text).strip().lstrip("+-−"))
    unit = (piece["unit"] or "") if piece else ""
    return "" if unit.startswith(":") else unit  # 8:00 is a time of the day


def read(text: str, quantity: str, system: System = "metric") -> float:
    """A typed quantity in the engine's unit.

    Parameters
    ----------
    text : str
        What was typed; a bare number is in the unit shown
    quantity : str
        A key of ``QUANTITIES``
    system : {"metric", "us"}
        The system shown

    Returns
    -------
    float
        Value, [the engine's unit of the quantity]

    Raises
    ------
    UnreadableQuantity
        With a sentence for the builder

    Examples
    --------
    >>> round(read("7 ft 6", "length"), 4)
    2.286
    >>> round(read("1 1/2", "length", "us"), 4)
    0.0381
    """
    sign, rest = _tidy(text, quantity)
    if quantity == "daytime":
        return _daytime(rest)
    shown = shown_in(quantity, system)
    total, position, last = 0.0, 0, None
    while position < len(rest):
        piece = _PIECE.match(rest, position)
        if piece is None:
            example = QUANTITIES[quantity].example
            raise UnreadableQuantity(f"“{text}” cannot be read; try {example}.")
        word = piece["unit"]
        if word:
            unit = _find_unit(word, quantity)
        elif last is not None and last.label == "ft":
            unit = TYPED["length"]["in"]  # "7 ft 6" means 7 ft 6 in
        elif last is None:
            unit = shown
        else:
            raise UnreadableQuantity(f"“{text}” ends in a number without a unit.")
        if last is not None and unit.factor >= last.factor:
            raise UnreadableQuantity(f"“{text}” cannot be read as one quantity.")
        total += unit.factor * parse_number(piece["number"]) + unit.offset * (
            sign if last is None else 0.0
        )
        position, last = piece.end(), unit
    value = sign * total
    if not math.isfinite(value):
        raise UnreadableQuantity(f"“{text}” is too large.")
    return value
