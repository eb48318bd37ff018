"""An entry of a log, whoever keeps it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

__all__ = ["Logged"]


@dataclass(frozen=True, slots=True)
class Logged:
    """An entry.

    Attributes
    ----------
    kind, part : str
        Key of its kind, and id of its part
    values : mapping of str to object
        What it says by field, in SI
    age : float
        How long ago it was, [d]
    """

    kind: str
    part: str
    values: Mapping[str, Any]
    age: float
