"""The boundary between SI and what builders type and read.

Public: :func:`read` turns typed text into SI, :func:`show` turns SI into text.
"""

from bathys.units.reading import UnreadableQuantity, parse_number, read
from bathys.units.showing import entry, fill_sentence, show, show_number, unit_of
from bathys.units.table import SYSTEMS, System

__all__ = [
    "SYSTEMS", "System", "UnreadableQuantity", "entry", "fill_sentence", "parse_number", "read",
    "show", "show_number", "unit_of",
]  # fmt: skip
