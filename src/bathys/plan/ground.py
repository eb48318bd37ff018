"""Where the parts of a plan stand, seen from above. Places are from the near left corner of the
site: x to the right, y away from who looks at it."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field
from shapely import Polygon, box

from bathys.plan.base import Part
from bathys.plan.quantities import Coordinate, Elevation, Identifier, Size, Turn, Words

__all__ = ["Corner", "Ground", "GroundMark", "Route", "RouteCorner", "Spot"]


class Spot(Part):
    """Where a vessel or a junction stands: its middle, and how far it is turned."""

    x: Coordinate = Field(title="From the left")
    y: Coordinate = Field(title="From the near edge")
    turned: Turn = Field(default=0.0, title="Turned", description="To the left, seen from above.")


class Corner(Part):
    """A corner of an outline or a way over the ground."""

    x: Coordinate
    y: Coordinate


class RouteCorner(Corner):
    """A corner of a run's way, where it may be told how high that lies."""

    height: Elevation | None = Field(
        default=None, description="Over the datum; none for as high as before it."
    )


class Route(Part):
    """The way a run takes over the ground, from its first end to its other by corners."""

    corners: Annotated[tuple[RouteCorner, ...], Field(max_length=40)] | None = Field(
        default=None, description="None for a right angle at most."
    )
    sets_length: bool = Field(
        default=True, description="Whether the run's length follows from it; else it is typed."
    )


class GroundMark(Part):
    """Something on the site that is no part of the plan."""

    id: Identifier
    kind: Literal["obstacle", "door", "path", "tap", "power"]
    name: Annotated[Words, Field(max_length=80)] = ""
    x: Coordinate
    y: Coordinate
    length: Size = 1.0
    width: Size = 1.0

    @property
    def covers(self) -> Polygon:
        """What it covers, seen from above."""
        half_long, half_wide = 0.5 * self.length, 0.5 * self.width
        return box(self.x - half_long, self.y - half_wide, self.x + half_long, self.y + half_wide)


_LEAST_SITE = 0.1  # [m²]


def _a_ring(corners: tuple[Corner, ...]) -> tuple[Corner, ...]:
    """Corners that go round a site, or none."""
    points = [(c.x, c.y) for c in corners]
    ring = Polygon(points) if len(set(points)) > 2 else None
    if corners and (ring is None or not ring.is_valid or ring.area < _LEAST_SITE):
        raise ValueError(
            "the outline must go round the site by three or more corners, and not cross itself"
        )
    return corners


class Ground(Part):
    """The site from above: a rectangle, or what an outline leaves of it."""

    length: Size = Field(title="Site, left to right")
    width: Size = Field(title="Site, near to far")
    outline: Annotated[tuple[Corner, ...], Field(max_length=40), AfterValidator(_a_ring)] = ()
    marks: Annotated[tuple[GroundMark, ...], Field(max_length=80)] = ()
