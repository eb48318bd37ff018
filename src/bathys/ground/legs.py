"""Legs or blocks under what stands over the ground, and braces: where they are taken to be."""

from functools import lru_cache

from shapely import LineString, Polygon, box, from_wkb
from shapely.affinity import rotate

from bathys.ground.placing import Placed

__all__ = ["BRACED_FROM", "LEG", "braces_of", "legs_of"]

LEG = 0.1
"""A leg or a stack of blocks takes so much under an edge (common practice) [m]."""

BRACED_FROM = 0.4
"""A stand so high is braced under both its ends (common practice) [m]."""

_KEPT = 2048  # places of vessels whose legs are kept
_THICK = 0.05  # of a brace [m]
_ROUND = 0.85  # of the box about a footprint, under which it is round [-]


def braces_of(spot: Placed) -> tuple[Polygon, ...]:
    """Braces of a vessel's stand, seen from above.

    Parameters
    ----------
    spot : Placed
        The vessel on the ground

    Returns
    -------
    tuple of Polygon
        One under each of its shorter sides, from leg to leg; empty for a round vessel and for a
        low stand, [m]
    """
    if spot.vessel.within is not None or spot.vessel.floor_height < BRACED_FROM:
        return ()
    return _braces(spot.outline.wkb, spot.x, spot.y, spot.turned)


@lru_cache(maxsize=_KEPT)
def _braces(outline: bytes, x: float, y: float, turned: float) -> tuple[Polygon, ...]:
    """Kept by where it stands: of a plan only what is dragged is worked out again."""
    middle = (x, y)
    straight = rotate(from_wkb(outline), -turned, origin=middle)
    left, near, right, far = straight.bounds
    if straight.area < _ROUND * (right - left) * (far - near):
        return ()
    if right - left >= far - near:
        made = (box(left, near, left + _THICK, far), box(right - _THICK, near, right, far))
    else:
        made = (box(left, near, right, near + _THICK), box(left, far - _THICK, right, far))
    return tuple(rotate(brace, turned, origin=middle) for brace in made)


def legs_of(spot: Placed) -> tuple[Polygon, ...]:
    """Legs of a vessel's stand, seen from above.

    Parameters
    ----------
    spot : Placed
        The vessel on the ground

    Returns
    -------
    tuple of Polygon
        One under each corner, of a round vessel under its wall at each quarter; empty for what
        stands on the ground or in another vessel, [m]
    """
    if spot.vessel.within is not None or spot.vessel.floor_height <= LEG:
        return ()
    return _legs(spot.outline.wkb, spot.x, spot.y, spot.turned)


@lru_cache(maxsize=_KEPT)
def _legs(outline: bytes, own_x: float, own_y: float, turned: float) -> tuple[Polygon, ...]:
    """Kept as braces are."""
    middle = (own_x, own_y)
    straight = rotate(from_wkb(outline), -turned, origin=middle)
    left, near, right, far = straight.bounds
    legs = []
    for x, y in ((left, near), (right, near), (right, far), (left, far)):
        inside = LineString((middle, (x, y))).intersection(straight)
        at_x, at_y = inside.coords[-1] if isinstance(inside, LineString) else (x, y)
        to_x = at_x + (LEG if at_x < own_x else -LEG)
        to_y = at_y + (LEG if at_y < own_y else -LEG)
        leg = box(min(at_x, to_x), min(at_y, to_y), max(at_x, to_x), max(at_y, to_y))
        legs.append(rotate(leg, turned, origin=middle))
    return tuple(legs)
