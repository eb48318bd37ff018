"""How much water a vessel holds at a level, and the level at which it holds so much."""

import math
from bisect import bisect_right
from collections.abc import Sequence
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from bathys.plan.model import Plan
from bathys.plan.shell import Layer, Shell, sliced
from bathys.plan.vessel import FalseCone, Media, Vessel

__all__ = ["Storage", "joined", "storage_of"]

Floats = NDArray[np.float64]


class Storage:
    """Level ↔ volume of an upright vessel, exact both ways.

    Levels are over the vessel's floor. Above the rim the walls are taken to go on, so that what
    would spill can be told.

    Parameters
    ----------
    heights : sequence of float
        Heights at which the wetted area changes, from 0, rising, [m]
    areas : sequence of float
        Water area above each of those heights, [m²]
    rim : float
        Height of the rim, [m]
    """

    def __init__(self, heights: list[float], areas: list[float], rim: float) -> None:
        self.rim = rim
        self._marks, self._areas, self._held = heights, areas, [0.0]
        for low, high, area in zip(heights, heights[1:], areas, strict=False):
            self._held.append(self._held[-1] + (high - low) * area)

    @cached_property
    def heights(self) -> Floats:
        """Heights at which the wetted area changes [m]."""
        return np.array(self._marks)

    @cached_property
    def areas(self) -> Floats:
        """Water area above each of those heights [m²]."""
        return np.array(self._areas)

    @cached_property
    def _volumes(self) -> Floats:
        return np.array(self._held)

    def volume(self, level: Floats | float) -> Floats:
        """Water held [m³] up to a level over the floor [m]; none below the floor."""
        level = np.maximum(np.asarray(level, dtype=np.float64), 0.0)
        layer = np.clip(np.searchsorted(self.heights, level, side="right") - 1, 0, None)
        held: Floats = self._volumes[layer] + self.areas[layer] * (level - self.heights[layer])
        return held

    def level(self, volume: Floats | float) -> Floats:
        """Level over the floor [m] of an amount of water [m³]; the floor for none."""
        volume = np.maximum(np.asarray(volume, dtype=np.float64), 0.0)
        layer = np.clip(np.searchsorted(self._volumes, volume, side="right") - 1, 0, None)
        found: Floats = self.heights[layer] + (volume - self._volumes[layer]) / self.areas[layer]
        return found

    def volume_at(self, level: float) -> float:
        """Water held [m³] at one level [m]: :meth:`volume` without its arrays, for loops."""
        if level <= 0.0:
            return 0.0
        layer = max(bisect_right(self._marks, level) - 1, 0)
        return self._held[layer] + self._areas[layer] * (level - self._marks[layer])

    def level_at(self, volume: float) -> float:
        """Level [m] of one amount of water [m³]: :meth:`level` without its arrays, for loops."""
        if volume <= 0.0:
            return 0.0
        layer = max(bisect_right(self._held, volume) - 1, 0)
        return self._marks[layer] + (volume - self._held[layer]) / self._areas[layer]

    def area(self, level: Floats | float) -> Floats:
        """Water area [m²] just above a level over the floor [m]."""
        layer = np.searchsorted(self.heights, np.asarray(level), side="right") - 1
        return self.areas[np.clip(layer, 0, None)]


def joined(storages: Sequence[tuple[Storage, float]]) -> Storage:
    """Vessels that stand at one level, as one.

    Parameters
    ----------
    storages : sequence of (Storage, float)
        Each with the height of its floor over the first one's, [m]

    Returns
    -------
    Storage
        Their water together, levels over the first one's floor; the lowest rim counts
    """
    if len(storages) == 1:
        return storages[0][0]
    marks = {0.0} | {max(float(h) + up, 0.0) for s, up in storages for h in s.heights}
    heights = sorted(marks)
    areas = [sum(float(s.area(h - up)) for s, up in storages if h - up >= 0.0) for h in heights]
    rim = min(s.rim + up for s, up in storages)
    return Storage(heights, areas, rim)


def storage_of(plan: Plan, vessel: Vessel) -> Storage:
    """Storage of one vessel, with its media and the media guards of its siphons.

    Parameters
    ----------
    plan : Plan
        The plan the vessel stands in
    vessel : Vessel
        The vessel

    Returns
    -------
    Storage
        Its level ↔ volume

    Notes
    -----
    The walls of standpipe, bell and guard are thin and left out; so are roots. What fittings and
    racks displace is taken to be spread evenly over the height. A vessel that stands within
    another takes up its own water area there, its walls left out.
    """
    guards = 0.0
    if vessel.media is not None:
        guards = sum(w.clear_area for w in plan.ways_out_of(vessel.id))
    inside = tuple(
        (
            v.floor_height - vessel.floor_height,
            v.floor_height - vessel.floor_height + v.shape.height,
            v.shape.footprint,
        )
        for v in plan.vessels_within(vessel.id)
    )
    return _storage(vessel.shape, vessel.displaced, vessel.media, guards, vessel.false_cone, inside)


Stands = tuple[float, float, float]
"""From and to a height over the floor [m], and the area taken up between [m²]."""


@lru_cache(maxsize=2048)
def _storage(
    shape: Shell,
    displaced: float,
    media: Media | None,
    guards: float,
    cone: FalseCone | None,
    inside: tuple[Stands, ...],
) -> Storage:
    """Kept, since every rule asks for it and most edits leave a vessel as it is."""
    share = max(1.0 - displaced / shape.capacity, 0.05)
    layers = [(height, share * area) for height, area in shape.layers]
    if cone is not None and not cone.flooded:
        layers = _over_cone(layers, cone)
    layers = _around(layers, inside)
    if media is None:
        return Storage(*_columns(layers), shape.height)
    marks = sorted({0.0, media.bottom, media.top, *(h for h, _ in layers)})
    filled = []
    for low in marks:
        area = next(a for h, a in reversed(layers) if h <= low)
        clear = min(guards, area)
        wetted = media.void_fraction * (area - clear) + clear
        filled.append((low, wetted if media.bottom <= low < media.top else area))
    return Storage(*_columns(filled), shape.height)


def _over_cone(layers: list[Layer], cone: FalseCone) -> list[Layer]:
    """What a cone with air behind it leaves: layers that hold just the water over it."""
    wide = math.sqrt(4.0 * next(a for h, a in reversed(layers) if h <= 0.0) / math.pi)
    foot, tall = min(cone.foot_diameter, wide), cone.cone_height

    def held(level: float) -> float:
        across = foot + (wide - foot) * level / tall
        return math.pi / 12.0 * level * (foot**2 + foot * across + across**2)

    above = next(a for h, a in reversed(layers) if h <= tall)
    return [*sliced(tall, held), (tall, above), *((h, a) for h, a in layers if h > tall)]


_LEAST_LEFT = 0.02  # share of an area that what stands in it must leave, so that levels stay told


def _around(layers: list[Layer], inside: Sequence[Stands]) -> list[Layer]:
    """What vessels that stand within another leave of its areas, as high as they reach."""
    if not inside:
        return layers
    marks = sorted(
        {h for h, _ in layers} | {max(z, 0.0) for low, high, _ in inside for z in (low, high)}
    )
    left = []
    for low in marks:
        area = next(a for h, a in reversed(layers) if h <= low)
        taken = sum(a for one, two, a in inside if one <= low < two)
        left.append((low, max(area - taken, _LEAST_LEFT * area)))
    return left


def _columns(layers: Sequence[Layer]) -> tuple[list[float], list[float]]:
    return [h for h, _ in layers], [a for _, a in layers]
