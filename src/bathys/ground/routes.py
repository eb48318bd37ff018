"""The way of each run over the ground, its length and its bends."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from threading import Lock

import numpy as np
from cachetools import LRUCache, cached
from shapely import LineString, Point
from shapely.ops import nearest_points

from bathys.ground.placing import Placed, placed
from bathys.network.runs import start_height
from bathys.plan.model import Plan
from bathys.plan.pipes import Run

__all__ = ["RunRoute", "junction_places", "laid_routes", "routes_of"]

_STRAIGHT = 0.06  # off a straight line that needs no bend [m]
_BEND = math.radians(15.0)  # a turn that needs a fitting
_PULL = 0.98  # of its neighbours on a junction; the rest is that of all vessels together

XY = tuple[float, float]


@dataclass(frozen=True, slots=True)
class RunRoute:
    """A run's way over the ground.

    Attributes
    ----------
    run : Run
        The run
    points : tuple of (float, float)
        From its first end to its last, [m]
    is_told : bool
        Whether its corners are told
    heights : tuple of float
        Of each point over the datum where a corner's height is told, else empty, [m]
    """

    run: Run
    points: tuple[XY, ...]
    is_told: bool
    heights: tuple[float, ...] = ()

    @property
    def length(self) -> float:
        """Level length [m], and what it rises and falls on its way beyond its ends."""
        return math.fsum(math.dist(*ends) for ends in pairwise(self.points)) + self.detour

    @property
    def detour(self) -> float:
        """What it rises and falls on its way over what its ends differ [m]."""
        if not self.heights:
            return 0.0
        climbs = math.fsum(abs(b - a) for a, b in pairwise(self.heights))
        return climbs - abs(self.heights[-1] - self.heights[0])

    @property
    def bends(self) -> int:
        """Turns that need a fitting [-]; of rises and falls, those that its ends do not ask for."""
        return self._turns + self._upright_turns

    @property
    def _upright_turns(self) -> int:
        if not self.heights:
            return 0
        moves = sum(abs(b - a) > _STRAIGHT for a, b in pairwise(self.heights))
        asked = abs(self.heights[-1] - self.heights[0]) > _STRAIGHT
        return 2 * max(moves - int(asked), 0)

    @property
    def _turns(self) -> int:
        ways = [
            math.atan2(y2 - y1, x2 - x1)
            for (x1, y1), (x2, y2) in pairwise(self.points)
            if math.hypot(x2 - x1, y2 - y1) > 1e-6
        ]
        turns = (abs(math.remainder(b - a, math.tau)) for a, b in pairwise(ways))
        return sum(turn > _BEND for turn in turns)


def junction_places(plan: Plan, places: Mapping[str, Placed]) -> dict[str, XY]:
    """Where each junction lies: as told, else amid what its runs lead to.

    Parameters
    ----------
    plan : Plan
        The plan
    places : mapping of str to Placed
        Where its vessels stand

    Returns
    -------
    dict of str to (float, float)
        By id, [m]
    """
    told = {j.id: (j.spot.x, j.spot.y) for j in plan.junctions if j.spot is not None}
    known: dict[str, XY] = {p.vessel.id: (p.x, p.y) for p in places.values()} | told
    loose = [j.id for j in plan.junctions if j.id not in told]
    beside: dict[str, list[str]] = {j: [] for j in loose}
    for run in plan.runs:
        ends = [_owner(plan, run.start), _owner(plan, run.end)]
        for one, other in (ends, ends[::-1]):
            if one in beside:
                beside[one].append(other)
    if not loose:
        return told
    # Each stands in the middle of its neighbours; one that hangs on nothing, amid all vessels.
    row = {j: n for n, j in enumerate(loose)}
    matrix, right = np.eye(len(loose)), np.zeros((len(loose), 2))
    middle = np.array(_mean(list(known.values())))
    for j, others in beside.items():
        right[row[j]] += (1.0 - _PULL if others else 1.0) * middle
        for other in others:
            if other in row:
                matrix[row[j], row[other]] -= _PULL / len(others)
            else:
                right[row[j]] += _PULL / len(others) * np.array(known[other])
    where = np.linalg.solve(matrix, right)
    found = {
        j: (round(float(where[n, 0]), 2), round(float(where[n, 1]), 2)) for j, n in row.items()
    }
    return told | found


def _mean(points: list[XY]) -> XY:
    return (
        math.fsum(x for x, _ in points) / len(points),
        math.fsum(y for _, y in points) / len(points),
    )


def _owner(plan: Plan, place: str) -> str:
    return plan.owner_of(place) or place


def routes_of(plan: Plan, places: Mapping[str, Placed]) -> tuple[RunRoute, ...]:
    """The way of every run.

    Parameters
    ----------
    plan : Plan
        The plan
    places : mapping of str to Placed
        Where its vessels stand

    Returns
    -------
    tuple of RunRoute
        In the plan's order. A run that is not told goes straight, or round one right angle; it
        begins and ends at the wall of its vessels, or in the middle where a pump, a siphon or an
        upright outlet stands in it
    """
    joints = junction_places(plan, places)
    return tuple(_route(plan, run, places, joints) for run in plan.runs)


@cached(LRUCache(maxsize=32), key=id, lock=Lock())
def _kept(plan: Plan) -> tuple[Plan, tuple[RunRoute, ...]]:
    """Kept with its plan, so that no other can have its identity."""
    return plan, routes_of(plan, placed(plan))


def laid_routes(plan: Plan) -> tuple[RunRoute, ...]:
    """The way of every run, with each vessel where it stands.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of RunRoute
        As :func:`routes_of`
    """
    return _kept(plan)[1]


def _route(
    plan: Plan, run: Run, places: Mapping[str, Placed], joints: Mapping[str, XY]
) -> RunRoute:
    """The way of one run; kept, since a drag moves few of them."""
    ends = tuple(_end(plan, place, places, joints) for place in (run.start, run.end))
    told = run.route.corners if run.route is not None else None
    heights = _heights(plan, run, [c.height for c in told]) if told is not None else ()
    key = (id(run), heights, *(end if spot is None else (id(spot), *end) for end, spot in ends))
    with _routes_lock:
        known = _routes.get(key)
    if known is None:
        # What it was found from is kept with it, so that nothing else can have its identity.
        known = (run, ends, _led(plan, run, places, joints, heights))
        with _routes_lock:
            _routes[key] = known
    return known[2]


_routes: LRUCache[tuple[object, ...], tuple[Run, object, RunRoute]] = LRUCache(maxsize=4096)
_routes_lock = Lock()


def _end(
    plan: Plan, place: str, places: Mapping[str, Placed], joints: Mapping[str, XY]
) -> tuple[XY, Placed | None]:
    return _middle(plan, place, places, joints), places.get(_owner(plan, place))


def _led(
    plan: Plan,
    run: Run,
    places: Mapping[str, Placed],
    joints: Mapping[str, XY],
    heights: tuple[float, ...],
) -> RunRoute:
    start, end = (_middle(plan, place, places, joints) for place in (run.start, run.end))
    told = run.route.corners if run.route is not None else None
    if told is not None:
        corners = [(c.x, c.y) for c in told]
    elif min(abs(end[0] - start[0]), abs(end[1] - start[1])) <= _STRAIGHT:
        corners = []
    else:
        # A corner within a vessel is none. Where either is, the run goes straight across.
        own = [
            places[v].outline
            for v in (_owner(plan, run.start), _owner(plan, run.end))
            if v in places
        ]
        angles = ((end[0], start[1]), (start[0], end[1]))
        free = (c for c in angles if not any(shape.covers(Point(c)) for shape in own))
        corners = [c for c in (next(free, None),) if c is not None]
    first = _at_wall(plan, run.start, places, start, [*corners, end][0])
    last = _at_wall(plan, run.end, places, end, [start, *corners][-1])
    points = tuple((round(x, 4), round(y, 4)) for x, y in (first, *corners, last))
    return RunRoute(run, points, told is not None, heights)


def _heights(plan: Plan, run: Run, told: list[float | None]) -> tuple[float, ...]:
    """Of its ends and its corners [m]; a corner that is not told lies as high as what is before."""
    if all(height is None for height in told):
        return ()
    found = [start_height(plan, run)]
    for height in told:
        found.append(found[-1] if height is None else height)
    end = plan.elevation(run.end)
    return (*found, found[-1] if end is None else end)


def _middle(plan: Plan, place: str, places: Mapping[str, Placed], joints: Mapping[str, XY]) -> XY:
    owner = _owner(plan, place)
    if owner in joints:
        return joints[owner]
    spot = places[owner]
    return spot.x, spot.y


def _at_wall(plan: Plan, place: str, places: Mapping[str, Placed], middle: XY, towards: XY) -> XY:
    """Where a run meets its vessel: at the wall for a port, in the middle for what stands in it."""
    spot = places.get(_owner(plan, place))
    if spot is None or plan.port(place) is None:
        return middle
    line = LineString([middle, towards])
    if line.length > 0.0:
        cut = line.intersection(spot.outline.exterior)
        if not cut.is_empty:
            nearest = nearest_points(Point(towards), cut)[1]
            return float(nearest.x), float(nearest.y)
    nearest = nearest_points(spot.outline.exterior, Point(towards))[0]
    return float(nearest.x), float(nearest.y)
