"""What waste is made of: grains by size, each class with its share of the mass."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from statistics import NormalDist

__all__ = [
    "CUT",
    "EXCESS_DENSITY",
    "FINES",
    "FRESH",
    "MASHED",
    "GrainClass",
    "Spread",
    "classes_of",
]

EXCESS_DENSITY = 0.10
"""Density of fresh waste over the water's less one: 1,100 kg/m³ (assumed) [-]."""

_LOW, _HIGH = 1e-6, 2e-2  # grains that are told apart [m]
_CLASSES = 18
CUT = 60e-6
"""Media hold grains over it otherwise than those under (assumed) [m]."""


@dataclass(frozen=True, slots=True)
class Spread:
    """Grains spread log-normally by mass.

    Attributes
    ----------
    median : float
        Grain over and under which half of the mass lies, [m]
    spread : float
        Geometric standard deviation, [-]
    """

    median: float
    spread: float

    def under(self, grain: float) -> float:
        """Share of the mass in grains under a size [m]."""
        if grain <= 0.0:
            return 0.0
        return NormalDist().cdf(math.log(grain / self.median) / math.log(self.spread))


FRESH = Spread(600e-6, 3.0)
"""Waste that reaches the settler by gravity (assumed)."""
MASHED = Spread(80e-6, 3.0)
"""Waste that went through a pump first (assumed)."""
FINES = Spread(30e-6, 2.0)
"""What is fine from the beginning (assumed)."""


@dataclass(frozen=True, slots=True)
class GrainClass:
    """Grains of about one size.

    Attributes
    ----------
    low, high : float
        Its edges, [m]
    share : float
        Of the whole mass, [-]
    """

    low: float
    high: float
    share: float

    @property
    def grain(self) -> float:
        """The grain it is worked out with: the geometric mean of its edges [m]."""
        return math.sqrt(self.low * self.high)


def _edges(cuts: tuple[float, ...]) -> tuple[float, ...]:
    """Edges of the classes, log-spaced, with one at every cut."""
    step = (_HIGH / _LOW) ** (1.0 / _CLASSES)
    even = [_LOW * step**k for k in range(_CLASSES + 1)]
    inner = {c for c in (CUT, *cuts) if _LOW < c < _HIGH}
    # An even edge that all but lies on a cut gives way to it.
    kept = [e for e in even if all(abs(math.log(e / c)) > 0.2 * math.log(step) for c in inner)]
    return tuple(sorted({*kept, *inner, _LOW, _HIGH}))


def classes_of(
    mix: Iterable[tuple[float, Spread]], cuts: Iterable[float] = ()
) -> tuple[GrainClass, ...]:
    """Classes of a mix of spreads.

    Parameters
    ----------
    mix : iterable of (float, Spread)
        Share of the mass in each spread, together 1
    cuts : iterable of float
        Sizes at which something is held back or not, such as a mesh, [m]

    Returns
    -------
    tuple of GrainClass
        From the finest on; their shares add up to 1
    """
    return _classes(tuple(mix), tuple(sorted(set(cuts))))


@lru_cache(maxsize=64)
def _classes(
    parts: tuple[tuple[float, Spread], ...], cuts: tuple[float, ...]
) -> tuple[GrainClass, ...]:
    edges = _edges(cuts)

    def under(grain: float, place: int) -> float:
        if place in (0, len(edges) - 1):
            return float(place > 0)  # what is finer or coarser counts in the last class
        return sum(share * spread.under(grain) for share, spread in parts)

    marks = [under(edge, k) for k, edge in enumerate(edges)]
    return tuple(
        GrainClass(low, high, b - a)
        for low, high, a, b in zip(edges, edges[1:], marks, marks[1:], strict=False)
    )
