"""What is in the way on the ground: vessels in each other, narrow aisles, beds out of reach."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import combinations, pairwise
from threading import Lock
from typing import Literal

import numpy as np
from cachetools import LRUCache, cached
from shapely import LineString, Point, Polygon, get_coordinates, intersects, prepare
from shapely.geometry.base import BaseGeometry

from bathys.ground.legs import braces_of, legs_of
from bathys.ground.placing import Placed, is_laid, placed, site_of
from bathys.ground.reach import AISLE, is_tended, reach_zones
from bathys.ground.routes import RunRoute, laid_routes
from bathys.network.runs import start_height
from bathys.plan.model import Plan

__all__ = ["Conflict", "conflicts"]

_TOUCH = 0.02  # overlap or gap that is none [m]


@dataclass(frozen=True, slots=True)
class Conflict:
    """Something in the way.

    Attributes
    ----------
    what : str
        ``overlap`` of two vessels, ``beyond`` the site, ``mark`` for an obstacle stood on,
        ``aisle`` too narrow, ``reach`` of a bed too wide, ``pipe`` through a vessel, ``leg`` or
        ``brace`` of a vessel's stand that a pipe meets
    part, other : str
        Ids of the parts, or of the obstacle; ``other`` may be empty
    size, wanted : float
        How wide the gap or the bed is, or how far beyond; and what is wanted; 0 for none, [m]
    """

    what: Literal["overlap", "beyond", "mark", "aisle", "reach", "pipe", "leg", "brace"]
    part: str
    other: str
    size: float
    wanted: float


@cached(LRUCache(maxsize=32), key=id, lock=Lock())
def _kept(plan: Plan) -> tuple[Plan, tuple[Conflict, ...]]:
    """Kept with its plan, so that no other can have its identity: every rule of the ground asks."""
    return plan, _conflicts(plan)


def conflicts(plan: Plan) -> tuple[Conflict, ...]:
    """All that is in the way, where the plan tells at least one place or way.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of Conflict
        In the plan's order
    """
    return _kept(plan)[1] if is_laid(plan) else ()


def _conflicts(plan: Plan) -> tuple[Conflict, ...]:
    places = placed(plan)
    own = {k: p for k, p in places.items() if p.vessel.within is None}
    _, site = site_of(plan, places)
    return (
        *_overlaps(own),
        *_beyond(plan, own, site),
        *_on_marks(plan, own),
        *_aisles(own),
        *_out_of_reach(plan),
        *_pipes(plan, own, laid_routes(plan)),
    )


def _overlaps(own: Mapping[str, Placed]) -> Iterator[Conflict]:
    for one, two in combinations(own.values(), 2):
        if one.outline.intersects(two.outline):
            deep = _thickness(one.outline.intersection(two.outline))
            if deep > _TOUCH and _at_one_height(one, two):
                yield Conflict("overlap", one.vessel.id, two.vessel.id, deep, 0.0)


def _thickness(shape: BaseGeometry) -> float:
    """How far two vessels stand in each other: the narrower side of what both cover [m]."""
    left, near, right, far = shape.bounds if not shape.is_empty else (0.0, 0.0, 0.0, 0.0)
    return float(min(right - left, far - near))


def _at_one_height(one: Placed, two: Placed) -> bool:
    """Whether they would be in the same space; a tank under a bed's stand is not."""
    low = max(one.vessel.floor_height, two.vessel.floor_height)
    high = min(p.vessel.floor_height + p.vessel.shape.height for p in (one, two))
    return high - low > _TOUCH


def _beyond(plan: Plan, own: Mapping[str, Placed], site: Polygon) -> Iterator[Conflict]:
    if plan.ground is None:
        return
    for spot in own.values():
        outside = spot.outline.difference(site)
        if not outside.is_empty:
            far = max(site.distance(Point(c)) for c in get_coordinates(outside))
            if far > _TOUCH:
                yield Conflict("beyond", spot.vessel.id, "", far, 0.0)


def _on_marks(plan: Plan, own: Mapping[str, Placed]) -> Iterator[Conflict]:
    for mark in plan.ground.marks if plan.ground is not None else ():
        if mark.kind not in ("obstacle", "door", "path"):
            continue
        for spot in own.values():
            deep = _thickness(spot.outline.intersection(mark.covers))
            if deep > _TOUCH:
                yield Conflict("mark", spot.vessel.id, mark.id, deep, 0.0)


def _aisles(own: Mapping[str, Placed]) -> Iterator[Conflict]:
    """Gaps that look like a way and are none, between two vessels on the same level of ground."""
    for one, two in combinations(own.values(), 2):
        gap = float(one.outline.distance(two.outline))
        if _TOUCH < gap < AISLE - 1e-6 and gap > 0.25 * AISLE and _tended(one, two):
            yield Conflict("aisle", one.vessel.id, two.vessel.id, gap, AISLE)


def _tended(one: Placed, two: Placed) -> bool:
    """Whether somebody has to get between them: both stand over the ground and one is tended."""
    over = all(p.vessel.floor_height + p.vessel.shape.height > 0.3 for p in (one, two))
    return over and any(p.vessel.use.keeps_fish or is_tended(p.vessel) for p in (one, two))


def _out_of_reach(plan: Plan) -> Iterator[Conflict]:
    for bed in reach_zones(plan).beds:
        if bed.wide > bed.wanted + 1e-6:
            yield Conflict("reach", bed.vessel, "", bed.wide, bed.wanted)


def _pipes(
    plan: Plan, own: Mapping[str, Placed], routes: tuple[RunRoute, ...]
) -> Iterator[Conflict]:
    """Runs that would go through a vessel that is none of theirs, or a leg of its stand."""
    spots = list(own.values())
    outlines = np.array([spot.outline for spot in spots])
    prepare(outlines)
    for route in routes:
        run = route.run
        ends = {plan.owner_of(run.start), plan.owner_of(run.end)}
        ends |= {plan.vessel(v).within for v in ends if v is not None}
        through, met = dict[str, float](), dict[str, Literal["leg", "brace"]]()
        for line, low, high in _stretches(plan, route):
            for number in np.flatnonzero(intersects(outlines, line)).tolist():
                spot = spots[number]
                floor = spot.vessel.floor_height
                if spot.vessel.id in ends:
                    continue
                if low < floor and high > 0.0:
                    if any(line.intersects(x) for x in legs_of(spot)):
                        met[spot.vessel.id] = "leg"
                    elif any(line.intersects(x) for x in braces_of(spot)):
                        met.setdefault(spot.vessel.id, "brace")
                if floor < high and low < floor + spot.vessel.shape.height:
                    crossed = float(line.intersection(spot.outline).length)
                    through[spot.vessel.id] = through.get(spot.vessel.id, 0.0) + crossed
        for spot in spots:
            if through.get(spot.vessel.id, 0.0) > 2.0 * _TOUCH:
                yield Conflict("pipe", run.id, spot.vessel.id, through[spot.vessel.id], 0.0)
            elif spot.vessel.id in met:
                yield Conflict(met[spot.vessel.id], run.id, spot.vessel.id, 0.0, 0.0)


def _stretches(plan: Plan, route: RunRoute) -> list[tuple[LineString, float, float]]:
    """Lines of a run's way, each with the heights it may lie between [m]: where no corner tells
    its own, anywhere between its ends."""
    if route.heights:
        ends = zip(pairwise(route.points), pairwise(route.heights), strict=True)
        return [(LineString(line), min(z), max(z)) for line, z in ends]
    start = start_height(plan, route.run)
    end = plan.elevation(route.run.end)
    heights = (start, start if end is None else end)
    return [(LineString(route.points), min(heights), max(heights))]
