"""The layout as it stands, seen from above and aside: an isometric picture for the build sheet."""

import math
from html import escape
from itertools import pairwise

from shapely import Polygon

from bathys.drawing.stations import labels_of
from bathys.evaluation import Evaluation
from bathys.ground import Placed, RunRoute, laid_routes, placed, site_of
from bathys.network.runs import start_height

__all__ = ["isometric_svg"]

_WIDE, _TALL, _MARGIN = 900.0, 560.0, 24.0
_ACROSS, _DOWN = math.cos(math.radians(30.0)), math.sin(math.radians(30.0))
_SMALL = 1e-9
_ON_GROUND = 0.02  # so little over it is on it [m]

_INK, _WATER, _DEEP, _LAND, _WALL, _SHADE = (
    "#22313a", "#a9d3e0", "#2f7f9b", "#f3ecd9", "#e8eef0", "#cfd9dd",
)  # fmt: skip

XYZ = tuple[float, float, float]
XY = tuple[float, float]


def _flat(point: XYZ) -> XY:
    """Where a point of space lies in the picture, upright down [m]."""
    x, y, z = point
    return (x - y) * _ACROSS, -(x + y) * _DOWN - z


class _Sheet:
    """Shapes in metres of the picture, drawn to fit once all are there."""

    def __init__(self) -> None:
        self.shapes: list[tuple[str, list[XY], str]] = []

    def area(self, corners: list[XYZ], style: str) -> None:
        self.shapes.append(("polygon", [_flat(c) for c in corners], style))

    def line(self, points: list[XYZ], style: str) -> None:
        self.shapes.append(("polyline", [_flat(p) for p in points], style))

    def words(self, at: XYZ, text: str) -> None:
        self.shapes.append((text, [_flat(at)], ""))

    def svg(self, title: str) -> str:
        """All of it as an SVG document."""
        points = [p for _, corners, _ in self.shapes for p in corners]
        left, top = min(x for x, _ in points), min(y for _, y in points)
        wide = max(max(x for x, _ in points) - left, _SMALL)
        tall = max(max(y for _, y in points) - top, _SMALL)
        by = min((_WIDE - 2.0 * _MARGIN) / wide, (_TALL - 2.0 * _MARGIN) / tall)
        width, height = wide * by + 2.0 * _MARGIN, tall * by + 2.0 * _MARGIN

        def place(point: XY) -> str:
            return f"{_MARGIN + (point[0] - left) * by:.1f},{_MARGIN + (point[1] - top) * by:.1f}"

        drawn = []
        for kind, corners, style in self.shapes:
            if kind in ("polygon", "polyline"):
                outline = " ".join(place(c) for c in corners)
                drawn.append(f'<{kind} points="{outline}" {style}/>')
            else:
                x, _, y = place(corners[0]).partition(",")
                drawn.append(
                    f'<text x="{x}" y="{y}" font-family="sans-serif" font-size="12" '
                    f'font-weight="bold" text-anchor="middle" fill="{_INK}">{escape(kind)}</text>'
                )
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:.0f} {height:.0f}" '
            f'width="{width:.0f}" height="{height:.0f}"><title>{escape(title)}</title>'
            f"{''.join(drawn)}</svg>"
        )


def isometric_svg(found: Evaluation) -> str:
    """Draw a plan as it stands, from the ground plan and its heights.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    str
        An SVG document; what is farther is drawn first, what is dug in shines through the ground
    """
    plan = found.plan
    places = placed(plan)
    _, site = site_of(plan, places)
    sheet = _Sheet()
    labels = labels_of(plan)
    ground = [(x, y, 0.0) for x, y, *_ in site.exterior.coords]
    sheet.area(ground, f'fill="{_LAND}" stroke="{_INK}" stroke-width="1"')
    for spot in sorted(places.values(), key=lambda p: (-(p.x + p.y), p.vessel.floor_height)):
        _vessel(sheet, found, spot)
    for route in laid_routes(plan):
        way = _way(found, route)
        if len(way) > 1:
            sheet.line(way, f'fill="none" stroke="{_DEEP}" stroke-width="2"')
    for id_, spot in places.items():
        rim = spot.vessel.floor_height + spot.vessel.shape.height
        sheet.words((spot.x, spot.y, rim), labels[id_])
    return sheet.svg(f"{plan.name} as it stands")


def _vessel(sheet: _Sheet, found: Evaluation, spot: Placed) -> None:
    """Walls that face the viewer, the open rim, and the water in it."""
    vessel = spot.vessel
    low, high = vessel.floor_height, vessel.floor_height + vessel.shape.height
    corners = _corners(spot.outline)
    if low > _ON_GROUND:
        for x, y in corners[: -1 : max(len(corners) // 4, 1)]:
            sheet.line([(x, y, 0.0), (x, y, low)], f'stroke="{_INK}" stroke-width="1.4"')
    for near in (False, True):  # walls behind, the water between, walls in front
        for (x1, y1), (x2, y2) in pairwise(corners):
            # Outwards of an edge that runs round to the left; the viewer stands at low x and y.
            faces = (y2 - y1) - (x2 - x1) < 0.0
            if faces is not near:
                continue
            shade = _WALL if abs(y2 - y1) > abs(x2 - x1) else _SHADE
            # What is dug in shines through the ground in front of it.
            over = min(max(low, 0.0), high) if near else low
            for foot, top, clear in ((low, over, 0.25), (over, high, 1.0 if near else 0.45)):
                if top - foot > _SMALL:
                    wall = [(x1, y1, foot), (x2, y2, foot), (x2, y2, top), (x1, y1, top)]
                    style = f'fill="{shade}" fill-opacity="{clear}" stroke="{shade}"'
                    sheet.area(wall, f'{style} stroke-width=".4" stroke-opacity="{clear}"')
        if not near:
            level = min(found.vessels[vessel.id].levels.high, high)
            if level > low:
                water = [(x, y, level) for x, y in corners]
                sheet.area(water, f'fill="{_WATER}" stroke="none"')
    rim = [(x, y, high) for x, y in corners]
    sheet.area(rim, f'fill="none" stroke="{_INK}" stroke-width="1.4"')


def _corners(outline: Polygon) -> list[XY]:
    """Round to the left, closed."""
    ring = [(x, y) for x, y, *_ in outline.exterior.coords]
    return ring if outline.exterior.is_ccw else ring[::-1]


def _way(found: Evaluation, route: RunRoute) -> list[XYZ]:
    """A run in space: a drain keeps its height and drops at its end, any other rises where it
    begins."""
    plan, run = found.plan, route.run
    end = plan.elevation(run.end)
    if end is None:
        return []
    if route.heights:
        told = list(zip(route.points, route.heights, strict=True))
        risers = [((x, y, z), (*to, z)) for ((x, y), _), (to, z) in pairwise(told)]
        return [(*told[0][0], told[0][1]), *(point for riser in risers for point in riser)]
    start = start_height(plan, run)
    along = start if found.runs[run.id].gravity is not None else max(start, end)
    (x1, y1), (x2, y2) = route.points[0], route.points[-1]
    return [(x1, y1, start), *((x, y, along) for x, y in route.points), (x2, y2, end)]
