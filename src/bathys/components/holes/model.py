"""Holes through a wall or a screen."""

from typing import Annotated, Literal

from pydantic import Field

from bathys.physics import area_of
from bathys.plan.quantities import Count, Height
from bathys.plan.way_out import Drilled, Outlet

__all__ = ["MODEL", "DrilledHoles"]


class DrilledHoles(Outlet):
    """A row of holes through a wall or a screen, feeding the run from ``<id>.out``."""

    HEIGHTS = (("height", "the holes"),)

    kind: Literal["holes"] = "holes"
    height: Height = Field(title="Height", description="Centre of the holes over the floor.")
    diameter: Annotated[Height, Field(ge=0.001, le=0.5)] = Field(title="Hole diameter")
    count: Count = Field(title="Holes")

    @property
    def pipe(self) -> None:
        """None: they are drilled through the wall."""
        return None

    @property
    def spills_from(self) -> float:
        """Their centres [m]."""
        return self.height

    @property
    def drilled(self) -> Drilled:
        """All of it."""
        return Drilled("count", self.count, self.count * area_of(self.diameter), self.height, None)

    def leaves_at(self, bore: float) -> float:
        """Their centres [m]."""
        return self.height


MODEL = DrilledHoles
