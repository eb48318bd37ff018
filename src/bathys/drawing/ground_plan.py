"""The ground plan: the layout from above, on a grid, to scale, in picture units."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock

from cachetools import LRUCache, cached
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from bathys.drawing.ground_picture import Foot, GroundPicture, Joint, MarkDrawn, WayDrawn
from bathys.drawing.stations import labels_of
from bathys.drawing.way_labels import WayLabels
from bathys.evaluation import Evaluation, full_mass
from bathys.ground import (
    Placed,
    RunRoute,
    braces_of,
    laid_routes,
    legs_of,
    placed,
    reach_zones,
    site_of,
)
from bathys.ground.routes import junction_places
from bathys.physics import GRAVITY
from bathys.plan.pumps import Pump
from bathys.units import System, own_system

__all__ = ["LOAD_STEPS", "draw_ground_plan"]

LOAD_STEPS = (2000.0, 4000.0, 6000.0, 9000.0)
"""Loads on a footprint at which the map of loads grows darker [Pa]."""

_WIDE, _TALL = 1000.0, 640.0  # the largest picture
_SMOOTH = 0.01  # how far off an edge may be drawn, where a person can stand [m]
_MARGIN = 34.0  # round the site, for its scale

XY = tuple[float, float]


@dataclass(frozen=True, slots=True)
class _Grid:
    """Lines so far apart [m], in the words of a system."""

    step: float
    words: int
    word: str

    def lines(self, low: float, high: float) -> range:
        return range(math.ceil(low / self.step - 1e-9), math.floor(high / self.step + 1e-9) + 1)


_GRIDS = {"metric": _Grid(1.0, 1, "m"), "us": _Grid(0.6096, 2, "ft")}


class _Scale:
    """From metres on the ground to picture units."""

    def __init__(self, low: XY, high: XY) -> None:
        self.low = low
        long, wide = high[0] - low[0], high[1] - low[1]
        self.by = min((_WIDE - 2.0 * _MARGIN) / long, (_TALL - 2.0 * _MARGIN) / wide)
        self.width = round(long * self.by + 2.0 * _MARGIN, 1)
        self.height = round(wide * self.by + 2.0 * _MARGIN, 1)

    def x(self, metres: float) -> float:
        return round(_MARGIN + (metres - self.low[0]) * self.by, 1)

    def y(self, metres: float) -> float:
        return round(self.height - _MARGIN - (metres - self.low[1]) * self.by, 1)

    def outline(self, shape: Polygon) -> str:
        return self.points([(x, y) for x, y, *_ in shape.exterior.coords[:-1]])

    def paths(self, shape: BaseGeometry) -> tuple[str, ...]:
        """Each area of a shape, with what is cut out of it."""
        areas = shape.geoms if isinstance(shape, MultiPolygon) else (shape,)
        return tuple(
            "".join(
                f"M{self.points([(x, y) for x, y, *_ in ring.coords[:-1]])}Z"
                for ring in (area.exterior, *area.interiors)
            )
            for area in areas
            if isinstance(area, Polygon) and not area.is_empty
        )

    def points(self, corners: list[XY]) -> str:
        return " ".join(f"{self.x(x)},{self.y(y)}" for x, y in corners)


def draw_ground_plan(found: Evaluation, units: System = "metric") -> GroundPicture:
    """Draw a plan from above.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units, for the grid

    Returns
    -------
    GroundPicture
        What to draw. Anything beyond the site is in the picture too
    """
    plan = found.plan
    places = placed(plan)
    ground, site = site_of(plan, places)
    joints = junction_places(plan, places)
    routes = laid_routes(plan)
    corners = [xy for r in routes for xy in r.points]
    boxes = [site.bounds, *(p.outline.bounds for p in places.values())]
    low = tuple(min([b[i] for b in boxes] + [c[i] for c in corners]) for i in (0, 1))
    high = tuple(max([b[i + 2] for b in boxes] + [c[i] for c in corners]) for i in (0, 1))
    scale = _Scale((low[0], low[1]), (high[0], high[1]))
    labels = labels_of(plan)
    zones = reach_zones(plan)
    pumped = _pumped(found)
    ways, labelled = [], WayLabels(places)
    for route in routes:
        run = route.run
        middle = labelled.place(route.points)
        ways.append(
            WayDrawn(
                run.id,
                labels[run.id],
                run.name,
                scale.points(list(route.points)),
                tuple(
                    (scale.x(x), scale.y(y), z)
                    for (x, y), z in zip(route.points[1:-1], _told_heights(route), strict=True)
                ),
                scale.x(middle[0]),
                scale.y(middle[1]),
                run.id in pumped,
                route.length,
                route.bends,
                route.is_told,
                run.route is not None and run.route.sets_length,
            )
        )
    grid = _GRIDS[own_system(units, "length")]
    bar = next((n for n in (1, 2, 5, 10) if n * grid.step * scale.by >= 60.0), 50)
    return GroundPicture(
        scale.width,
        scale.height,
        round(scale.by, 3),
        scale.x(0.0),
        scale.y(0.0),
        ground,
        scale.outline(site),
        tuple((scale.x(x), scale.y(y)) for x, y, *_ in site.exterior.coords[:-1]),
        scale.paths(zones.standing.intersection(site).simplify(_SMOOTH)),
        tuple(path for bed in zones.beds for path in scale.paths(bed.beyond)),
        tuple((scale.x(n * grid.step), n % 5 == 0) for n in grid.lines(low[0], high[0])),
        tuple((scale.y(n * grid.step), n % 5 == 0) for n in grid.lines(low[1], high[1])),
        f"{grid.words} {grid.word}",
        _feet(found, places, scale, labels),
        tuple(ways),
        tuple(Joint(j, labels[j], scale.x(x), scale.y(y)) for j, (x, y) in joints.items()),
        tuple(
            MarkDrawn(
                m,
                scale.x(m.x - 0.5 * m.length),
                scale.y(m.y + 0.5 * m.width),
                round(m.length * scale.by, 1),
                round(m.width * scale.by, 1),
            )
            for m in ground.marks
        ),
        round(bar * grid.step * scale.by, 1),
        f"{bar * grid.words} {grid.word}",
        f"{plan.name} from above: {len(places)} vessels and {len(routes)} runs.",
    )


def _told_heights(route: RunRoute) -> list[float | None]:
    """Of the corners of a route, those that are told [m]."""
    told = route.run.route.corners if route.run.route is not None else None
    if told is None:
        return [None] * (len(route.points) - 2)
    return [corner.height for corner in told]


def _as_drawn(scale: _Scale, spot: Placed) -> tuple[object, ...]:
    return scale.low, scale.by, scale.height, spot.vessel, spot.x, spot.y, spot.turned


@cached(LRUCache(maxsize=1024), key=_as_drawn, lock=Lock())
def _stand_outlines(scale: _Scale, spot: Placed) -> tuple[str, ...]:
    """Legs and braces of a stand, kept: of a plan only what is dragged is drawn again."""
    return tuple(scale.outline(x) for x in (*legs_of(spot), *braces_of(spot)))


def _feet(
    found: Evaluation, places: Mapping[str, Placed], scale: _Scale, labels: dict[str, str]
) -> tuple[Foot, ...]:
    """The lowest first, so that what stands over another is drawn over it."""
    feet = []
    for spot in sorted(places.values(), key=lambda p: p.vessel.floor_height):
        result = found.vessels[spot.vessel.id]
        load = full_mass(found, result) * GRAVITY / spot.outline.area
        over = [
            p
            for p in places.values()
            if p.vessel.floor_height > spot.vessel.floor_height
            and p.vessel.within is None
            and p.outline.contains(spot.outline.centroid)
            and spot.vessel.within is None
        ]
        feet.append(
            Foot(
                spot,
                labels[spot.vessel.id],
                scale.outline(spot.outline),
                _stand_outlines(scale, spot),
                scale.x(spot.x),
                scale.y(spot.y),
                load,
                sum(load >= step for step in LOAD_STEPS),
                bool(over),
            )
        )
    return tuple(feet)


def _pumped(found: Evaluation) -> set[str]:
    """Runs that a pump drives: from it, and on by joints to where they end."""
    plan = found.plan
    joints = {j.id for j in plan.junctions}
    reached = [p.leads_from for p in plan.pumps if isinstance(p, Pump)]
    runs: set[str] = set()
    while reached:
        place = reached.pop()
        for run in plan.runs_from(place):
            if run.id not in runs:
                runs.add(run.id)
                if run.end in joints:
                    reached.append(run.end)
    return runs
