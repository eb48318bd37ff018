"""Plan area of each shell shape. A new shape is one function and one line of ``FOOTPRINTS``."""

import math
from collections.abc import Callable
from typing import Any

from bathys.physics import area_of
from bathys.plan.model import Box, Cylinder

__all__ = ["FOOTPRINTS", "footprint", "perimeter"]


def _box(shape: Box) -> float:
    return shape.length * shape.width


def _cylinder(shape: Cylinder) -> float:
    return area_of(shape.diameter)


FOOTPRINTS: dict[type, Callable[[Any], float]] = {Box: _box, Cylinder: _cylinder}


def footprint(shape: Box | Cylinder) -> float:
    """Plan area of a shell.

    Parameters
    ----------
    shape : Box or Cylinder
        The shell

    Returns
    -------
    float
        Area inside, [m²]
    """
    return FOOTPRINTS[type(shape)](shape)


def perimeter(shape: Box | Cylinder) -> float:
    """Length of a shell's rim [m]."""
    if isinstance(shape, Box):
        return 2.0 * (shape.length + shape.width)
    return math.pi * shape.diameter
