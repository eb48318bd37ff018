"""An open upright pipe, with a sleeve, a screen and a ring where it has them."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.plan.base import Part
from bathys.plan.bore import Bore
from bathys.plan.openings import Drill, HoleRow, area_of_rows
from bathys.plan.quantities import Depth, Height, Opening
from bathys.plan.way_out import Drilled, Outlet

__all__ = ["MODEL", "Screen", "Sleeve", "Standpipe"]


class Sleeve(Part):
    """A wider pipe about a standpipe, drilled at its foot and higher than the water: what goes over
    the rim is drawn from the floor."""

    kind: Literal["sleeve"] = "sleeve"
    bore: Bore = Field(title="Sleeve bore")
    hole_rows: Annotated[tuple[HoleRow, ...], Field(min_length=1, max_length=12)] = Field(
        title="Sleeve drilled with",
        description="A row a line: number × drill at the height of the middles.",
    )

    @property
    def area(self) -> float:
        """Of all its holes [m²]."""
        return area_of_rows(self.hole_rows)

    @property
    def foot(self) -> float:
        """Height that it draws from, over the floor [m]."""
        return min(row.height for row in self.hole_rows)


class Screen(Part):
    """A screen over a standpipe's rim that keeps fish or media out."""

    kind: Literal["screen"] = "screen"
    mesh: Drill = Field(title="Mesh", description="Width of its openings.")
    open_share: Annotated[Opening, Field(ge=0.05)] = Field(
        default=0.5, title="Open share", description="Of its area; 40 to 60 % is usual."
    )


class Standpipe(Outlet):
    """An open upright pipe that sets a level; its drain is the run from ``<id>.out``."""

    HEIGHTS = (("rim_height", "the standpipe's rim"), ("hole_height", "the small holes"))

    kind: Literal["standpipe"] = "standpipe"
    bore: Bore = Field(title="Standpipe bore")
    rim_height: Depth = Field(title="Standpipe height", description="Rim over the floor.")
    ring_height: Height = Field(
        default=0.0,
        title="Ring on its rim",
        description="Raises the rim by so much; taken off, the top of the bed stays dry.",
    )
    removable: bool = Field(
        default=False,
        title="Can be pulled out",
        description="Pulled, it empties the vessel to its floor.",
    )
    holes: Annotated[int, Field(ge=0, le=1000, json_schema_extra={"quantity": "count"})] = Field(
        default=0, title="Small holes", description="Drilled low, to drain the bed slowly."
    )
    hole_height: Height = Field(default=0.02, title="Height of the holes")
    hole_diameter: Annotated[Height, Field(ge=0.001, le=0.1)] = Field(
        default=0.006, title="Diameter of the holes"
    )
    sleeve: Sleeve | None = Field(default=None, title="Sleeve about it")
    screen: Screen | None = Field(default=None, title="Screen on top")

    @property
    def crest_height(self) -> float:
        """Its rim, or its ring's [m]."""
        return self.rim_height + self.ring_height

    @property
    def mesh(self) -> float | None:
        """Its screen's [m]."""
        return self.screen.mesh if self.screen is not None else None

    @property
    def takes_from(self) -> float:
        """Level that its water is taken from: the foot of its sleeve, else where it spills [m]."""
        return self.sleeve.foot if self.sleeve is not None else self.spills_from

    @property
    def widest(self) -> Bore:
        """Its sleeve, or itself."""
        return self.sleeve.bore if self.sleeve is not None else self.bore

    @property
    def pipe(self) -> Bore:
        """The pipe itself."""
        return self.bore

    @property
    def spills_from(self) -> float:
        """Its small holes, or its rim [m]."""
        return min(self.hole_height, self.crest_height) if self.holes else self.crest_height

    @property
    def level_held(self) -> float:
        """Its rim [m]."""
        return self.crest_height

    @property
    def drilled(self) -> Drilled:
        """The small holes near its foot, which drain what stands below its rim."""
        area = self.holes * area_of(self.hole_diameter)
        return Drilled("holes", self.holes, area, self.hole_height, self.crest_height)

    @property
    def drop_bore(self) -> float:
        """Its own [m]."""
        return self.bore.inside

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.sleeve is not None:
            if self.sleeve.bore.inside <= self.bore.outside:
                raise ValueError("the sleeve must be wider than the standpipe it stands about")
            if max(row.top for row in self.sleeve.hole_rows) >= self.crest_height:
                raise ValueError("the sleeve's holes must lie below the standpipe's rim")
        return self


MODEL = Standpipe
