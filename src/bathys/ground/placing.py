"""Where each vessel stands, as told, or in the order of the side view where nothing is told."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock

from cachetools import LRUCache, cached
from shapely import Point, Polygon, affinity, box

from bathys.plan.ground import Ground
from bathys.plan.model import Plan
from bathys.plan.shell import Shell
from bathys.plan.vessel import Vessel

__all__ = ["Placed", "footprint_of", "is_laid", "placed", "site_of", "too_large_for_site"]

_GAP = 0.7  # between vessels that are placed unasked [m]
_EDGE = 0.8  # round them [m]
_ROW, _ASPECT = 6.0, 1.6  # a row is so long at least [m], and about so many times as long as deep
_RESTS, _ASIDE = 0.01, 0.5  # over a rim, and aside in the side view, of what stands over it [m]
_TURN, _TOUCH = 5, 0.005  # a vessel is turned by so many degrees at a time; and fits by so much [m]
_ROUND = 24  # corners of a quarter of a circle


@dataclass(frozen=True, slots=True)
class Placed:
    """A vessel on the ground.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    x, y : float
        Its middle, [m]
    turned : float
        To the left, [degrees]
    is_told : bool
        Whether the plan tells it
    outline : Polygon
        Its footprint, [m]
    """

    vessel: Vessel
    x: float
    y: float
    turned: float
    is_told: bool
    outline: Polygon


def footprint_of(shell: Shell) -> Polygon:
    """What a shell covers, seen from above, about its middle.

    Parameters
    ----------
    shell : Shell
        The shell

    Returns
    -------
    Polygon
        By its inside sizes at the rim, [m]
    """
    long = _first(shell, "length", "outside_length")
    wide = _first(shell, "width", "outside_width", "diameter")
    across = _first(shell, "diameter")
    if long is None and across is not None:
        return Point(0.0, 0.0).buffer(0.5 * across, quad_segs=_ROUND)
    if long is None or wide is None:
        long, wide = shell.sides
    return box(-0.5 * long, -0.5 * wide, 0.5 * long, 0.5 * wide)


def _first(shell: Shell, *fields: str) -> float | None:
    """The first of some sizes that a shell has [m]."""
    told = (getattr(shell, field, None) for field in fields)
    return next((float(size) for size in told if size is not None), None)


@cached(LRUCache(maxsize=32), key=id, lock=Lock())
def _kept(plan: Plan) -> tuple[Plan, Mapping[str, Placed]]:
    """Kept with its plan, so that no other can have its identity: rules, edits and pictures ask."""
    return plan, _placed(plan)


def placed(plan: Plan) -> Mapping[str, Placed]:
    """Every vessel on the ground.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    mapping of str to Placed
        By id. Where no place is told, vessels stand in rows, in the order of the side view; one
        that the side view shows over another stands over it, one within another in its middle
    """
    return _kept(plan)[1]


def _placed(plan: Plan) -> dict[str, Placed]:
    found: dict[str, Placed] = {}
    told = [v for v in plan.vessels if v.spot is not None and v.within is None]
    loose = sorted(
        (v for v in plan.vessels if v.spot is None and v.within is None),
        key=lambda v: (v.along is None, v.along or 0.0),
    )
    for vessel in told:
        assert vessel.spot is not None  # noqa: S101 - just asked
        found[vessel.id] = _at(
            vessel, vessel.spot.x, vessel.spot.y, vessel.spot.turned, is_told=True
        )
    # What is told keeps its place; the others stand beyond it.
    left, near = _EDGE, _EDGE
    if found:
        near = max(p.outline.bounds[3] for p in found.values()) + _GAP
    deepest, start = 0.0, left
    under = _stacked(plan)
    row = max(_ROW, math.sqrt(_ASPECT * sum(_room(v.shape) for v in loose)))
    for vessel in loose:
        if vessel.id in under:
            continue
        over = [v for v in loose if under.get(v.id) == vessel.id]
        boxes = [footprint_of(v.shape).bounds for v in (vessel, *over)]
        long, deep = (max(b[i + 2] - b[i] for b in boxes) for i in (0, 1))
        if left > start and left + long > row:
            left, near, deepest = start, near + deepest + _GAP, 0.0
        found[vessel.id] = _at(
            vessel,
            round(left + 0.5 * long, 2),
            round(near + 0.5 * deep, 2),
            0.0,
            is_told=False,
        )
        left += long + _GAP
        deepest = max(deepest, deep)
    for vessel in loose:
        if vessel.id in under:
            below = found[under[vessel.id]]
            found[vessel.id] = _at(vessel, below.x, below.y, 0.0, is_told=False)
    for vessel in plan.vessels:
        if vessel.within is not None:
            host = found[_host(plan, vessel)]
            found[vessel.id] = _at(vessel, host.x, host.y, host.turned, is_told=host.is_told)
    return {v.id: found[v.id] for v in plan.vessels}


def _stacked(plan: Plan) -> dict[str, str]:
    """What stands over another vessel in the side view, and over which: the lowest of a stack."""
    own = [v for v in plan.vessels if v.within is None and v.along is not None]
    under: dict[str, str] = {}
    for vessel in own:
        below = [
            v
            for v in own
            if v.id != vessel.id
            and vessel.floor_height >= v.floor_height + v.shape.height - _RESTS
            and abs((vessel.along or 0.0) - (v.along or 0.0)) < _ASIDE
        ]
        if below and vessel.spot is None:
            under[vessel.id] = min(below, key=lambda v: v.floor_height).id
    return {over: low for over, low in under.items() if low not in under}


def _room(shell: Shell) -> float:
    """What a vessel takes up with the gaps beside it [m²]."""
    left, near, right, far = footprint_of(shell).bounds
    return float((right - left + _GAP) * (far - near + _GAP))


def _host(plan: Plan, vessel: Vessel) -> str:
    while vessel.within is not None:
        vessel = plan.vessel(vessel.within)
    return vessel.id


@cached(
    LRUCache(maxsize=1024),
    key=lambda vessel, x, y, turned, is_told: (id(vessel), x, y, turned, is_told),
    lock=Lock(),
)
def _at(vessel: Vessel, x: float, y: float, turned: float, *, is_told: bool) -> Placed:
    """Kept with its vessel, so that no other can have its identity."""
    shape = affinity.rotate(footprint_of(vessel.shape), turned, origin=(0.0, 0.0))
    return Placed(vessel, x, y, turned, is_told, affinity.translate(shape, x, y))


def site_of(plan: Plan, places: Mapping[str, Placed]) -> tuple[Ground, Polygon]:
    """The site, as told, else as large as what stands on it.

    Parameters
    ----------
    plan : Plan
        The plan
    places : mapping of str to Placed
        Where its vessels stand

    Returns
    -------
    (Ground, Polygon)
        The site, and its outline, [m]
    """
    if plan.ground is not None:
        ground = plan.ground
        if ground.outline:
            return ground, Polygon([(c.x, c.y) for c in ground.outline])
        return ground, box(0.0, 0.0, ground.length, ground.width)
    right = max(p.outline.bounds[2] for p in places.values()) + _EDGE
    far = max(p.outline.bounds[3] for p in places.values()) + _EDGE
    length, width = (math.ceil(2.0 * max(x, 2.0)) / 2.0 for x in (right, far))
    return Ground(length=length, width=width), box(0.0, 0.0, length, width)


def is_laid(plan: Plan) -> bool:
    """Whether a plan tells where anything lies on the ground.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    bool
        True once a vessel has its place or a run its way
    """
    return any(v.spot is not None for v in plan.vessels) or any(
        r.route is not None for r in plan.runs
    )


def too_large_for_site(plan: Plan) -> tuple[Vessel, ...]:
    """Vessels that do not fit on the site, whichever way they are turned.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of Vessel
        In the plan's order; none where no site is told. A site with an outline is taken as the
        rectangle about it
    """
    if plan.ground is None:
        return ()
    _, site = site_of(plan, {})
    left, near, right, far = site.bounds
    room = right - left, far - near
    own = (v for v in plan.vessels if v.within is None)
    return tuple(v for v in own if not _fits(footprint_of(v.shape), room))


def _fits(shape: Polygon, room: tuple[float, float]) -> bool:
    for turned in range(0, 180, _TURN):
        left, near, right, far = affinity.rotate(shape, turned, origin=(0.0, 0.0)).bounds
        if right - left <= room[0] + _TOUCH and far - near <= room[1] + _TOUCH:
            return True
    return False
