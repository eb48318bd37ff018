"""The walls of a vessel, side by side, and where a run meets them."""

import math
from dataclasses import dataclass
from functools import lru_cache

from bathys.ground import Placed, footprint_of
from bathys.plan.shell import Shell
from bathys.plan.wall_hole import SIDES

__all__ = ["Wall", "wall_met", "walls_of"]


@dataclass(frozen=True, slots=True)
class Wall:
    """One side of a vessel, or its floor.

    Attributes
    ----------
    width : float
        From its left corner to its right seen from outside; of a round vessel, a quarter of the
        way round, [m]
    has_corners : bool
        Whether it ends at corners
    round_about : float
        All the way round where it has none, [m]; else 0
    """

    width: float
    has_corners: bool
    round_about: float = 0.0


@lru_cache(maxsize=256)
def walls_of(shell: Shell) -> dict[str, Wall]:
    """Sides of a shell, and its floor.

    Parameters
    ----------
    shell : Shell
        The shell

    Returns
    -------
    dict of str to Wall
        By ``near``, ``right``, ``far``, ``left`` and ``floor``
    """
    half_long, half_wide, is_round = _halves(shell)
    floor = Wall(2.0 * half_long, has_corners=True)
    if is_round:
        way = math.pi * (half_long + half_wide)
        return {**{s: Wall(0.25 * way, False, way) for s in SIDES}, "floor": floor}
    sides = {s: Wall(2.0 * (half_long if s in ("near", "far") else half_wide), True) for s in SIDES}
    return {**sides, "floor": floor}


@lru_cache(maxsize=256)
def _halves(shell: Shell) -> tuple[float, float, bool]:
    """Half its length and width [m], and whether it is round."""
    shape = footprint_of(shell)
    left, near, right, far = shape.bounds
    return 0.5 * (right - left), 0.5 * (far - near), len(shape.exterior.coords) > 5


def wall_met(
    spot: Placed, points: tuple[tuple[float, float], ...], is_start: bool
) -> tuple[str, float]:
    """Where a run meets a vessel.

    Parameters
    ----------
    spot : Placed
        Where the vessel stands
    points : tuple of (float, float)
        The run's way over the ground, [m]
    is_start : bool
        Whether it begins at the vessel; else it ends there

    Returns
    -------
    (str, float)
        The side, before the vessel is turned, and how far from the left corner of that side seen
        from outside, [m]
    """
    half_long, half_wide, is_round = _halves(spot.vessel.shape)
    way = points if is_start else points[::-1]
    x, y = _within(spot, way[0])
    if len(way) > 1 and math.hypot(x, y) < 0.5 * min(half_long, half_wide):
        x, y = _within(spot, way[1])  # it begins in the middle: where it would come through
    long, wide = x / half_long, y / half_wide
    scale = max(abs(long), abs(wide))
    if scale <= 0.0:
        long, wide, scale = 0.0, -1.0, 1.0
    long, wide = long / scale, wide / scale
    if abs(long) >= abs(wide):
        side, along = ("right", wide) if long > 0.0 else ("left", -wide)
        half = half_wide
    else:
        side, along = ("far", -long) if wide > 0.0 else ("near", long)
        half = half_long
    if is_round:
        quarter = 0.5 * math.pi * 0.5 * (half_long + half_wide)
        return side, round(quarter * (0.5 + math.atan(along) / (0.5 * math.pi)), 3)
    return side, round(half * (1.0 + along), 3)


def _within(spot: Placed, point: tuple[float, float]) -> tuple[float, float]:
    """A point as seen from the middle of a vessel that is not turned [m]."""
    turned = math.radians(spot.turned)
    x, y = point[0] - spot.x, point[1] - spot.y
    return (
        x * math.cos(turned) + y * math.sin(turned),
        y * math.cos(turned) - x * math.sin(turned),
    )
