"""Level layers of each shell shape. A new shape is one function and one line of ``LAYERS``."""

import math
from collections.abc import Callable
from itertools import pairwise
from typing import Any

from bathys.physics import area_of
from bathys.plan.shells import Box, Cone, Cylinder, Dish, Measured, Shape, Tote

__all__ = ["LAYERS", "Layer", "footprint", "layers_of", "perimeter", "width_at"]

Layer = tuple[float, float]
"""A height over the floor [m], and the water area [m²] from there to the next."""

_SLICES = 24
"""Slices of a curved bottom: each holds just the water it should, and its surface is flat."""


def _box(shape: Box) -> list[Layer]:
    return [(0.0, shape.length * shape.width)]


def _cylinder(shape: Cylinder) -> list[Layer]:
    return [(0.0, area_of(shape.diameter))]


def _tote(shape: Tote) -> list[Layer]:
    # Four quarter circles stand where the corners of the box would be.
    corners = (4.0 - math.pi) * shape.corner_radius**2
    return [(0.0, shape.length * shape.width - corners)]


def _sliced(depth: float, volume: Callable[[float], float]) -> list[Layer]:
    marks = [depth * k / _SLICES for k in range(_SLICES + 1)]
    return [(low, (volume(high) - volume(low)) / (high - low)) for low, high in pairwise(marks)]


def _cone(shape: Cone) -> list[Layer]:
    foot, grow = shape.bottom_diameter, (shape.diameter - shape.bottom_diameter)

    def volume(level: float) -> float:
        """Frustum of a cone: π h (d² + d D + D²)/12."""
        wide = foot + grow * level / shape.cone_height
        return math.pi / 12.0 * level * (foot**2 + foot * wide + wide**2)

    return [*_sliced(shape.cone_height, volume), (shape.cone_height, area_of(shape.diameter))]


def _dish(shape: Dish) -> list[Layer]:
    deep = shape.dish_height
    radius = (0.25 * shape.diameter**2 + deep**2) / (2.0 * deep)

    def volume(level: float) -> float:
        """Cap of a sphere: π h² (3 R − h)/3."""
        return math.pi / 3.0 * level**2 * (3.0 * radius - level)

    return [*_sliced(deep, volume), (deep, area_of(shape.diameter))]


def _measured(shape: Measured) -> list[Layer]:
    return [
        (one.level, (two.volume - one.volume) / (two.level - one.level))
        for one, two in pairwise(shape.marks)
    ]


LAYERS: dict[type, Callable[[Any], list[Layer]]] = {
    Box: _box, Cone: _cone, Cylinder: _cylinder, Dish: _dish, Measured: _measured, Tote: _tote,
}  # fmt: skip


def layers_of(shape: Shape) -> list[Layer]:
    """Water area of a shell by height.

    Parameters
    ----------
    shape : Shape
        The shell

    Returns
    -------
    list of (float, float)
        Heights from 0 up, [m], with the area up to the next, [m²]
    """
    return LAYERS[type(shape)](shape)


def footprint(shape: Shape) -> float:
    """Plan area of a shell at its rim.

    Parameters
    ----------
    shape : Shape
        The shell

    Returns
    -------
    float
        Area inside, [m²]
    """
    return layers_of(shape)[-1][1]


def perimeter(shape: Shape) -> float:
    """Length of a shell's rim [m]; of one that was measured, that of a circle of its area."""
    if isinstance(shape, Box):
        return 2.0 * (shape.length + shape.width)
    if isinstance(shape, Tote):
        return 2.0 * (shape.length + shape.width) - (8.0 - 2.0 * math.pi) * shape.corner_radius
    return math.sqrt(4.0 * math.pi * footprint(shape))


def width_at(shape: Shape, level: float) -> float:
    """How wide a shell is in a side view [m] at a height over its floor [m]: the length of a box
    or a tote, the diameter of what is round."""
    if isinstance(shape, Box | Tote):
        return shape.length
    if isinstance(shape, Cone) and level < shape.cone_height:
        wide = shape.diameter - shape.bottom_diameter
        return shape.bottom_diameter + wide * level / shape.cone_height
    if isinstance(shape, Dish) and level < shape.dish_height:
        deep = shape.dish_height
        radius = (0.25 * shape.diameter**2 + deep**2) / (2.0 * deep)
        return 2.0 * math.sqrt(max(level * (2.0 * radius - level), 0.0))
    area = next(a for h, a in reversed(layers_of(shape)) if h <= max(level, 0.0))
    return math.sqrt(4.0 * area / math.pi)
