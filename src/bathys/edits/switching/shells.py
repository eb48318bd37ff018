"""Another shell of the same height and area, and another filling."""

import math
from collections.abc import Callable
from typing import Any

from bathys.parts.media import MEDIA
from bathys.plan.shells import Box, Cone, Cylinder, Dish, LevelPoint, Measured, Shape, Tote
from bathys.plan.vessel import Media
from bathys.vessels import Storage, footprint
from bathys.vessels.shapes import layers_of

__all__ = ["FILLINGS", "SHELLS"]

_CURVED_MARKS = 6  # of a bottom that is not flat; few enough to type over
_CORNER = 0.1  # usual radius of a tote's corners [m]
_DEEP = 0.3  # usual depth of media [m]
_SHARE_FILLED = 0.85  # of a shell that is lower than that

Made = dict[str, Any] | None


def _across(shell: Shape) -> float:
    return math.sqrt(4.0 * footprint(shell) / math.pi)


def _sides(shell: Shape, corners: float = 0.0) -> tuple[float, float]:
    """Length and width of the same area, in the same proportion, less what corners cut off."""
    area, side = footprint(shell) + corners, math.sqrt(footprint(shell))
    length, width = (shell.length, shell.width) if isinstance(shell, Box | Tote) else (side, side)
    scale = math.sqrt(area / (length * width))
    return scale * length, scale * width


def _to_box(shell: Shape) -> Shape:
    length, width = _sides(shell)
    return Box(length=length, width=width, height=shell.height)


def _to_tote(shell: Shape) -> Shape:
    corner = min(_CORNER, 0.25 * min(_sides(shell)))
    length, width = _sides(shell, (4.0 - math.pi) * corner**2)
    return Tote(length=length, width=width, height=shell.height, corner_radius=corner)


def _to_cylinder(shell: Shape) -> Shape:
    return Cylinder(diameter=_across(shell), height=shell.height)


def _to_cone(shell: Shape) -> Shape:
    wide = _across(shell)
    return Cone(diameter=wide, height=shell.height, cone_height=0.3 * shell.height,
                bottom_diameter=min(0.05, 0.5 * wide))  # fmt: skip


def _to_dish(shell: Shape) -> Shape:
    deep = min(0.2 * shell.height, 0.4 * _across(shell))
    return Dish(diameter=_across(shell), height=shell.height, dish_height=deep)


def _to_measured(shell: Shape) -> Shape:
    """What would be measured of the shell as it was: few marks where its bottom is curved."""
    layers = layers_of(shell)
    storage = Storage([h for h, _ in layers], [a for _, a in layers], shell.height)
    curved = layers[-1][0]
    low = [curved * k / _CURVED_MARKS for k in range(1, _CURVED_MARKS + 1)] if curved else []
    levels = [0.0, *low, shell.height]
    points = [LevelPoint(level=round(z, 4), volume=round(storage.volume_at(z), 6)) for z in levels]
    return Measured(marks=tuple(points))


def _shell(make: Callable[[Shape], Shape]) -> Callable[[Any, Any], Made]:
    return lambda vessel, shell: make(shell).model_dump(mode="json")


SHELLS: dict[str, tuple[str, Callable[[Any, Any], Made]]] = {
    "box": ("box", _shell(_to_box)),
    "cylinder": ("cylinder, upright", _shell(_to_cylinder)),
    "cone": ("cylinder over a cone", _shell(_to_cone)),
    "dish": ("cylinder over a dish", _shell(_to_dish)),
    "tote": ("cut tote", _shell(_to_tote)),
    "measured": ("measured by filling it", _shell(_to_measured)),
}


def _filled_with(kind: str) -> Callable[[Any, Any], Made]:
    medium = MEDIA[kind]

    def fill(vessel: Any, old: Media | None) -> Made:
        # Another medium has another void fraction; the old one says nothing of it.
        void = round(0.5 * (medium.void_low + medium.void_high), 3)
        low, high = (old.bottom, old.top) if old is not None else (
            0.0, min(_DEEP, _SHARE_FILLED * vessel.shape.height))  # fmt: skip
        return {"kind": kind, "bottom": low, "top": high, "void_fraction": void}

    return fill


FILLINGS: dict[str, tuple[str, Callable[[Any, Any], Made]]] = {
    "none": ("water alone", lambda vessel, old: None),
    **{kind: (medium.name, _filled_with(kind)) for kind, medium in MEDIA.items()},
}
