"""The boundary between SI and what builders type and read.

Public: :func:`read` turns typed text into SI, :func:`show` turns SI into text.
"""

from bathys.units.reading import UnreadableQuantity, own_unit, parse_number, read
from bathys.units.showing import (
    entry,
    fill_equation,
    fill_sentence,
    in_unit,
    show,
    show_number,
    show_tape,
    unit_of,
)
from bathys.units.table import FAMILIES, SYSTEMS, System, mixed, own_system

__all__ = [
    "FAMILIES",
    "SYSTEMS",
    "System",
    "UnreadableQuantity",
    "entry",
    "fill_equation",
    "fill_sentence",
    "in_unit",
    "mixed",
    "own_system",
    "own_unit",
    "parse_number",
    "read",
    "show",
    "show_number",
    "show_tape",
    "unit_of",
]
