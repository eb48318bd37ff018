"""Common containers to build vessels of, by their inside sizes.

No make or model is meant. The drum's bore is that of ISO 15750 (from memory); all other sizes are
those usually met with (common practice), and are to be measured before anything is cut: totes and
baths differ by a few centimetres from maker to maker.
"""

import csv
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

__all__ = ["Container", "container", "containers"]

_BATHS = {
    "bath-150": ((0.0, 0.0), (0.1, 0.042), (0.2, 0.091), (0.3, 0.147), (0.38, 0.196)),
    "bath-170": ((0.0, 0.0), (0.1, 0.052), (0.2, 0.112), (0.3, 0.179), (0.4, 0.254)),
}
"""Level [m] and volume [m³] of baths, whose sides slope."""


@dataclass(frozen=True, slots=True)
class Container:
    """A container that can be had.

    Attributes
    ----------
    key, group, name : str
        Its name in addresses, what it is listed under, and its name for people
    shape : dict
        The shell as plan data, lengths in metres
    litres : float
        What it is sold as, or holds by its sizes, up to the rim, [L]; 0 where it was measured
    """

    key: str
    group: str
    name: str
    shape: dict[str, Any]
    litres: float


@cache
def containers() -> tuple[Container, ...]:
    """The containers that ship, in the order of their list.

    Returns
    -------
    tuple of Container
        The containers
    """
    text = files("bathys.parts").joinpath("containers.csv").read_text()
    return tuple(
        Container(row["key"], row["group"], row["name"], _shape(row), float(row["litres"] or 0.0))
        for row in csv.DictReader(text.splitlines())
    )


def _shape(row: dict[str, str]) -> dict[str, Any]:
    if row["kind"] == "measured":
        marks = [{"level": level, "volume": volume} for level, volume in _BATHS[row["key"]]]
        return {"kind": "measured", "marks": marks}
    sizes = {
        field: float(row[f"{name}_mm"]) / 1000.0
        for field, name in (
            ("length", "length"),
            ("width", "width"),
            ("diameter", "diameter"),
            ("height", "height"),
            ("corner_radius", "corner"),
            ("floor_length", "floor_length"),
            ("floor_width", "floor_width"),
            ("floor_diameter", "floor_diameter"),
        )
        if row[f"{name}_mm"]
    }
    return {"kind": row["kind"], **sizes}


def container(key: str) -> Container | None:
    """A container by its key.

    Parameters
    ----------
    key : str
        Its key

    Returns
    -------
    Container or None
        The container, if there is one
    """
    return next((c for c in containers() if c.key == key), None)
