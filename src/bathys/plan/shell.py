"""What every shell of a vessel has, whatever its kind."""

import json
import math
from abc import abstractmethod
from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import TYPE_CHECKING, Any, ClassVar, Literal, Self

from bathys.kinds import model_named
from bathys.plan.base import Kind

__all__ = ["NEARLY_ALL", "Layer", "Shell", "shell_from", "sliced"]

NEARLY_ALL = 1.0 - 1e-4
"""Share of its height over which a wall that slopes up to the rim is sliced: the rest is upright,
so that the water at the rim has the rim's area [-]."""

Layer = tuple[float, float]
"""A height over the floor [m], and the water area [m²] from there to the next."""

_SLICES = 24
"""Slices of a curved bottom: each holds just the water it should, and its surface is flat."""


def sliced(depth: float, volumes: Callable[[float], float]) -> list[Layer]:
    """Layers of a curved bottom, so deep [m], that holds so much [m³] up to a height [m].

    Parameters
    ----------
    depth : float
        Depth of the bottom, [m]
    volumes : callable
        Water up to a height over the bottom, [m] to [m³]

    Returns
    -------
    list of Layer
        Layers from the bottom up
    """
    marks = [depth * k / _SLICES for k in range(_SLICES + 1)]
    return [(low, (volumes(high) - volumes(low)) / (high - low)) for low, high in pairwise(marks)]


class Shell(Kind):
    """A shell that stands upright and is open at the top. Heights are over its floor."""

    GROUP: ClassVar[str] = "shells"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    SCALED: ClassVar[tuple[str, ...]] = ()
    """Dimensions of which one may be scaled to a wanted volume."""
    WALL_FITTINGS: ClassVar[tuple[str, ...]] = ("bulkhead", "grommet", "conduit", "screwed")
    """Kinds of fitting that lead a pipe through its wall, the usual one first."""

    if TYPE_CHECKING:

        @property
        def height(self) -> float:
            """Floor to rim [m]."""

    @classmethod
    @abstractmethod
    def like(cls, other: "Shell") -> Self:
        """As high as another shell, and as wide at its rim."""

    @property
    @abstractmethod
    def layers(self) -> list[Layer]:
        """Heights from 0 up [m], each with the water area up to the next [m²]."""

    @property
    def cut_from(self) -> Literal["", "foot", "top"]:
        """Which end of a larger container it is, where it is cut from one."""
        return ""

    @property
    def liner(self) -> tuple[float, float] | None:
        """Length and width of the sheet it is lined with [m], where it is made of boards."""
        return None

    @property
    def bottom(self) -> float:
        """Height up to which it grows wider [m]; 0 where its walls are upright from the floor."""
        return 0.0

    @property
    def sides(self) -> tuple[float, float]:
        """Length and width [m]; of what is not square, those of a square of its area."""
        side = math.sqrt(self.footprint)
        return side, side

    @property
    def footprint(self) -> float:
        """Area inside at its rim [m²]."""
        return self.layers[-1][1]

    @property
    def perimeter(self) -> float:
        """Length of its rim [m]; that of a circle of its area, unless it is square."""
        return math.sqrt(4.0 * math.pi * self.footprint)

    def width_at(self, level: float) -> float:
        """How wide it is in a side view [m] at a height [m]: as wide as a circle of its area."""
        area = next(a for h, a in reversed(self.layers) if h <= max(level, 0.0))
        return math.sqrt(4.0 * area / math.pi)

    def holds(self, level: float) -> float:
        """Water up to a height [m³], with nothing in it."""
        held, layers = 0.0, [*self.layers, (math.inf, 0.0)]
        for (low, area), (high, _) in pairwise(layers):
            held += area * max(min(level, high) - low, 0.0)
        return held

    @property
    def capacity(self) -> float:
        """Water up to its rim [m³], with nothing in it."""
        layers = [*self.layers, (self.height, 0.0)]
        return sum(area * (above[0] - low) for (low, area), above in pairwise(layers))

    def sides_of_area(self, area: float) -> tuple[float, float]:
        """Length and width [m] of so much area [m²], in the proportion of its own."""
        length, width = self.sides
        scale = math.sqrt(area / (length * width))
        return scale * length, scale * width

    @property
    def across(self) -> float:
        """Diameter of a circle of its area [m]."""
        return math.sqrt(4.0 * self.footprint / math.pi)


def shell_from(data: Mapping[str, Any]) -> Shell:
    """A shell from its sizes.

    Parameters
    ----------
    data : mapping of str to object
        As plan data, of a kind that is known, [m]

    Returns
    -------
    Shell
        The shell

    Raises
    ------
    ValidationError
        If its sizes are none of such a shell
    """
    made: Shell = model_named("shells", data["kind"]).model_validate_json(json.dumps(dict(data)))
    return made
