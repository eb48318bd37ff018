"""Notches cut in a wall, or the whole rim of a vessel that stands in another."""

import math
from typing import Literal

from pydantic import Field

from bathys.physics.weirs import broad_weir_constant, notch_constant, slot_constant
from bathys.plan.quantities import Count, Depth, Height, NotchAngle
from bathys.plan.way_out import Outlet

__all__ = ["MODEL", "Weir"]


class Weir(Outlet):
    """Water running over an edge: V-notches or slots cut in a wall, or a vessel's whole rim. It
    feeds the run from ``<id>.out``."""

    HEIGHTS = (("crest_height", "the edge"),)

    kind: Literal["weir"] = "weir"
    crest_height: Depth = Field(title="Edge over the floor", description="Lowest point of a notch.")
    edge: Literal["notch", "slot", "rim"] = Field(
        default="notch",
        title="The edge",
        description="V-notches keep shares even at small flows; slots carry more.",
    )
    count: Count = Field(default=1, title="How many")
    angle: NotchAngle = Field(
        default=90.0, title="Opening angle of a notch", description="Of V-notches alone."
    )
    width: Height = Field(
        default=0.05,
        title="Width of a slot",
        description="Or length of the rim that water runs over.",
    )

    @property
    def pipe(self) -> None:
        """None: it is an edge."""
        return None

    @property
    def spills_from(self) -> float:
        """The edge [m]."""
        return self.crest_height

    @property
    def exponent(self) -> float:
        """Of the level over it, in its flow [-]."""
        return 2.5 if self.edge == "notch" else 1.5

    @property
    def constant(self) -> float:
        """Flow [m³/s] over all its edges with the level a metre over them; it goes with the
        level's power :attr:`exponent`."""
        if self.edge == "notch":
            return self.count * notch_constant(math.radians(self.angle))
        if self.edge == "slot":
            return self.count * slot_constant(self.width)
        return self.count * broad_weir_constant(self.width)

    def leaves_at(self, bore: float) -> float:
        """The edge [m]."""
        return self.crest_height


MODEL = Weir
