"""How a pipe goes through the wall of a vessel, so far as it is chosen."""

from typing import TYPE_CHECKING, Literal, TypeAlias

from pydantic import Field

from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.plan.base import Part
from bathys.plan.quantities import Length, Size

__all__ = ["SIDES", "WallHole"]

SIDES = ("near", "right", "far", "left")
"""Sides of a vessel that is not turned, seen from above, going round to the left."""

if TYPE_CHECKING:
    AnyWallFitting: TypeAlias = str
    AnySide: TypeAlias = str
else:
    AnyWallFitting, AnySide = Literal[tuple(WALL_FITTINGS)], Literal[SIDES]


class WallHole(Part):
    """What is chosen of a hole; where nothing is, the usual is taken."""

    fitting: AnyWallFitting | None = Field(default=None, title="Wall fitting")
    side: AnySide | None = Field(
        default=None,
        title="Side",
        description="Of the vessel as the ground plan shows it, before it is turned.",
    )
    drill: Size | None = Field(
        default=None, title="Hole to drill", description="As stamped on the fitting."
    )
    across: Length | None = Field(
        default=None,
        title="From the left corner",
        description="Of that side seen from outside, to the middle of the hole; round a round "
        "vessel, along its wall.",
    )
