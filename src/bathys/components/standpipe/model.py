"""An open upright pipe."""

from typing import Annotated, Literal

from pydantic import Field

from bathys.physics import area_of
from bathys.plan.bore import Bore
from bathys.plan.quantities import Depth, Height
from bathys.plan.way_out import Drilled, Outlet

__all__ = ["MODEL", "Standpipe"]


class Standpipe(Outlet):
    """An open upright pipe that sets a level; its drain is the run from ``<id>.out``."""

    HEIGHTS = (("rim_height", "the standpipe's rim"), ("hole_height", "the small holes"))

    kind: Literal["standpipe"] = "standpipe"
    bore: Bore = Field(title="Standpipe bore")
    rim_height: Depth = Field(title="Standpipe height", description="Rim over the floor.")
    holes: Annotated[int, Field(ge=0, le=1000, json_schema_extra={"quantity": "count"})] = Field(
        default=0, title="Small holes", description="Drilled low, to drain the bed slowly."
    )
    hole_height: Height = Field(default=0.02, title="Height of the holes")
    hole_diameter: Annotated[Height, Field(ge=0.001, le=0.1)] = Field(
        default=0.006, title="Diameter of the holes"
    )

    @property
    def pipe(self) -> Bore:
        """The pipe itself."""
        return self.bore

    @property
    def spills_from(self) -> float:
        """Its small holes, or its rim [m]."""
        return min(self.hole_height, self.rim_height) if self.holes else self.rim_height

    @property
    def level_held(self) -> float:
        """Its rim [m]."""
        return self.rim_height

    @property
    def drilled(self) -> Drilled:
        """The small holes near its foot, which drain what stands below its rim."""
        area = self.holes * area_of(self.hole_diameter)
        return Drilled("holes", self.holes, area, self.hole_height, self.rim_height)

    @property
    def drop_bore(self) -> float:
        """Its own [m]."""
        return self.bore.inside


MODEL = Standpipe
