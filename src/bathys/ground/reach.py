"""Where a person can stand on the ground, and how far into a bed they reach from there."""

from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock

from cachetools import LRUCache, cached
from shapely import LineString, MultiPolygon, Polygon, box, get_coordinates, prepare
from shapely.geometry.base import BaseGeometry
from shapely.ops import unary_union

from bathys.ground.placing import Placed, placed, site_of
from bathys.plan.model import Plan
from bathys.plan.vessel import Vessel

__all__ = [
    "AISLE",
    "REACH_ONE",
    "REACH_TWO",
    "ReachZones",
    "ReachedBed",
    "is_tended",
    "reach_zones",
]

AISLE = 0.6
"""Narrowest way that a person walks and works in (common practice) [m]."""
REACH_ONE, REACH_TWO = 0.9, 1.2
"""Width of a bed that is tended from one side, and from two (common practice) [m]."""

_REACH = {0: 0.0, 1: REACH_ONE, 2: REACH_TWO}
_SIDE = 0.6  # share of a side that must be open to count
_STEP = 0.05  # off a side, where it is asked whether one can stand [m]


@dataclass(frozen=True, slots=True)
class ReachedBed:
    """How a bed is reached.

    Attributes
    ----------
    vessel : str
        Its id
    wide : float
        Across its open sides, [m]
    wanted : float
        The most that is reached from them, [m]; 0 where neither is open
    beyond : BaseGeometry
        What of it is out of reach, empty where all is within
    """

    vessel: str
    wide: float
    wanted: float
    beyond: BaseGeometry


@dataclass(frozen=True, slots=True)
class ReachZones:
    """Where a person can stand and reach.

    Attributes
    ----------
    standing : Polygon or MultiPolygon
        Where a way is wide enough
    beds : tuple of ReachedBed
        What is tended, in the plan's order
    """

    standing: Polygon | MultiPolygon
    beds: tuple[ReachedBed, ...]


@cached(LRUCache(maxsize=32), key=id, lock=Lock())
def _kept(plan: Plan) -> tuple[Plan, ReachZones]:
    """Kept with its plan, so that no other can have its identity: a rule and a picture ask."""
    return plan, _zones(plan)


def reach_zones(plan: Plan) -> ReachZones:
    """Where a person can stand, and what they reach from there.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    ReachZones
        For all vessels as they stand
    """
    return _kept(plan)[1]


def is_tended(vessel: Vessel) -> bool:
    """Whether somebody plants and picks in a vessel.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    bool
        Whether somebody does
    """
    return vessel.use.floods or vessel.use.has_rafts or vessel.crop is not None


def _zones(plan: Plan) -> ReachZones:
    places = placed(plan)
    own = {k: p for k, p in places.items() if p.vessel.within is None}
    _, site = site_of(plan, places)
    standing = _walkable(plan, own, site)
    near = standing.buffer(_STEP)
    prepare(near)
    beds = tuple(_bed(spot, near) for spot in own.values() if is_tended(spot.vessel))
    return ReachZones(standing, beds)


def _bed(spot: Placed, near: Polygon | MultiPolygon) -> ReachedBed:
    wide, sides = _open_sides(spot, near)
    wanted = _REACH[sides]
    if wide <= wanted + 1e-6:
        return ReachedBed(spot.vessel.id, wide, wanted, Polygon())
    beyond = spot.outline.difference(near.buffer(wanted / sides - _STEP)) if sides else spot.outline
    return ReachedBed(spot.vessel.id, wide, wanted, beyond)


def _walkable(plan: Plan, own: Mapping[str, Placed], site: Polygon) -> Polygon | MultiPolygon:
    """Where somebody of an aisle's width can stand."""
    blocked = [p.outline for p in own.values() if p.vessel.floor_height > -p.vessel.shape.height]
    if plan.ground is not None:
        blocked += [m.covers for m in plan.ground.marks if m.kind == "obstacle"]
    else:
        site = box(*site.buffer(AISLE + 0.5).bounds)
    free = site.difference(unary_union(blocked))
    half = 0.5 * AISLE - 1e-3
    return free.buffer(-half, quad_segs=4).buffer(half, quad_segs=4)


def _open_sides(spot: Placed, walkable: Polygon | MultiPolygon) -> tuple[float, int]:
    """How wide a bed is across its open sides [m], and how many of the two are open; whichever
    way across asks for the least."""
    ring = get_coordinates(spot.outline.minimum_rotated_rectangle).tolist()[:4]
    ways = []
    for first in (0, 1):
        sides = [
            LineString([ring[first], ring[(first + 1) % 4]]),
            LineString([ring[(first + 2) % 4], ring[(first + 3) % 4]]),
        ]
        across = float(LineString([ring[(first + 1) % 4], ring[(first + 2) % 4]]).length)
        is_open = sum(side.intersection(walkable).length >= _SIDE * side.length for side in sides)
        ways.append((across, is_open))
    return min(ways, key=lambda way: way[0] - _REACH[way[1]])
