"""Openings that are drilled or cut, and tubes that let air in."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from bathys.physics import area_of
from bathys.plan.base import Part
from bathys.plan.quantities import Count, Height

__all__ = ["AirTube", "HoleRow", "HoleRows", "area_of_rows", "top_of_rows"]

Drill = Annotated[Height, Field(ge=0.001, le=0.5)]
"""Diameter of a drill [m]."""


class HoleRow(Part):
    """A row of drilled holes."""

    count: Count
    diameter: Drill
    height: Height

    @property
    def area(self) -> float:
        """Of all its holes together [m²]."""
        return self.count * area_of(self.diameter)

    @property
    def top(self) -> float:
        """Where its holes end, over the floor [m]."""
        return self.height + 0.5 * self.diameter


HoleRows = Annotated[tuple[HoleRow, ...], Field(max_length=12)]


def area_of_rows(rows: Sequence[HoleRow]) -> float:
    """Open area of rows of holes.

    Parameters
    ----------
    rows : sequence of HoleRow
        The rows

    Returns
    -------
    float
        Area of all holes, [m²]
    """
    return sum(row.area for row in rows)


def top_of_rows(rows: Sequence[HoleRow]) -> float:
    """Level at which the last of the holes is clear of the water.

    Parameters
    ----------
    rows : sequence of HoleRow
        The rows

    Returns
    -------
    float
        Height over the floor, 0 without rows, [m]
    """
    return max((row.top for row in rows), default=0.0)


class AirTube(Part):
    """A tube that lets air in at the crown once its mouth is clear of the water."""

    bore: Drill
    mouth_height: Annotated[Height, Field(ge=0.001)]
