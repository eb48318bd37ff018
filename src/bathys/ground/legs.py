"""Legs or blocks under what stands over the ground: where they are taken to be."""

from shapely import LineString, Polygon, box
from shapely.affinity import rotate

from bathys.ground.placing import Placed

__all__ = ["LEG", "legs_of"]

LEG = 0.1
"""A leg or a stack of blocks takes so much under an edge (common practice) [m]."""


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
    middle = (spot.x, spot.y)
    straight = rotate(spot.outline, -spot.turned, origin=middle)
    left, near, right, far = straight.bounds
    legs = []
    for x, y in ((left, near), (right, near), (right, far), (left, far)):
        inside = LineString((middle, (x, y))).intersection(straight)
        at_x, at_y = inside.coords[-1] if isinstance(inside, LineString) else (x, y)
        to_x = at_x + (LEG if at_x < spot.x else -LEG)
        to_y = at_y + (LEG if at_y < spot.y else -LEG)
        leg = box(min(at_x, to_x), min(at_y, to_y), max(at_x, to_x), max(at_y, to_y))
        legs.append(rotate(leg, spot.turned, origin=middle))
    return tuple(legs)
