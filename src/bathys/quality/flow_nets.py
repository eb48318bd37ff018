"""Places that water is in, and what goes between them in the mean."""

from dataclasses import dataclass
from functools import cached_property
from graphlib import TopologicalSorter

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

__all__ = ["FlowNet", "Leg"]

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Leg:
    """Water that goes from one place to another.

    Attributes
    ----------
    id : str
        What carries it
    start, end : int
        Numbers of the places; -1 outside
    flow : float
        Mean flow, [m³/s]
    """

    id: str
    start: int
    end: int
    flow: float


@dataclass(frozen=True)
class FlowNet:
    """Places that water is in, and what goes between them.

    Attributes
    ----------
    places : tuple of str
        Names; vessels that store, and joints that only mix
    volumes : array
        Water in each, 0 of a joint, shape (places,), [m³]
    legs : tuple of Leg
        All that flows
    """

    places: tuple[str, ...]
    volumes: Floats
    legs: tuple[Leg, ...]

    @property
    def leaving(self) -> Floats:
        """What leaves each place [m³/s]."""
        out = np.zeros(len(self.places))
        for leg in self.legs:
            if leg.start >= 0:
                out[leg.start] += leg.flow
        return out

    @cached_property
    def parts(self) -> list[list[int]]:
        """Places that water goes round between, by their numbers; a part that another flows into
        comes after it."""
        return _parts(self)


def _parts(net: FlowNet) -> list[list[int]]:
    legs = [leg for leg in net.legs if leg.start >= 0 and leg.end >= 0]
    starts, ends = [leg.start for leg in legs], [leg.end for leg in legs]
    count = len(net.places)
    joined = coo_array((np.ones(len(legs)), (starts, ends)), shape=(count, count))
    _, labels = connected_components(joined, connection="strong")
    members: dict[int, list[int]] = {}
    for n, label in enumerate(labels.tolist()):
        members.setdefault(label, []).append(n)
    before: dict[int, set[int]] = {label: set() for label in members}
    for start, end in zip(labels[starts].tolist(), labels[ends].tolist(), strict=True):
        if start != end:
            before[end].add(start)
    return [members[label] for label in TopologicalSorter(before).static_order()]
