"""An entry of a log, whoever keeps it."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

__all__ = ["Logged", "mass_each", "total_of"]


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


def total_of(entries: Iterable[Logged], field: str) -> float:
    """What a field of entries comes to together.

    Parameters
    ----------
    entries : iterable of Logged
        The entries
    field : str
        Name of the field; where one leaves it out it counts as 0

    Returns
    -------
    float
        The sum, [SI unit of the field]
    """
    return math.fsum(float(e.values.get(field, 0.0)) for e in entries)


def mass_each(weighed: Logged) -> float:
    """Mean weight of a fish, by an entry of some weighed together.

    Parameters
    ----------
    weighed : Logged
        The entry

    Returns
    -------
    float
        Of one, [kg]
    """
    return float(weighed.values["mass"]) / float(weighed.values["count"])
