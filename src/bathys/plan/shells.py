"""Shapes of a vessel's shell."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.base import Part
from bathys.plan.quantities import Height, Size

__all__ = ["Box", "Cone", "Cylinder", "Dish", "LevelPoint", "Measured", "Shape", "Tote"]


class Box(Part):
    """An upright box."""

    kind: Literal["box"] = "box"
    length: Size = Field(title="Length inside")
    width: Size = Field(title="Width inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")


class Cylinder(Part):
    """An upright cylinder."""

    kind: Literal["cylinder"] = "cylinder"
    diameter: Size = Field(title="Diameter inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")


class Cone(Part):
    """An upright cylinder over a cone."""

    kind: Literal["cone"] = "cone"
    diameter: Size = Field(title="Diameter inside")
    height: Size = Field(title="Height inside", description="Lowest point to rim.")
    cone_height: Size = Field(title="Height of the cone", description="Of the whole height.")
    bottom_diameter: Size = Field(
        default=0.05, title="Diameter at the bottom", description="Of the flat or the drain."
    )

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.cone_height >= self.height:
            raise ValueError("the cone must end below the rim")
        if self.bottom_diameter >= self.diameter:
            raise ValueError("the bottom must be narrower than the cylinder")
        return self


class Dish(Part):
    """An upright cylinder over a round dish, a cap of a sphere."""

    kind: Literal["dish"] = "dish"
    diameter: Size = Field(title="Diameter inside")
    height: Size = Field(title="Height inside", description="Lowest point to rim.")
    dish_height: Size = Field(title="Depth of the dish", description="Of the whole height.")

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.dish_height >= self.height:
            raise ValueError("the dish must end below the rim")
        if self.dish_height > 0.5 * self.diameter:
            raise ValueError("a dish is no deeper than half its diameter")
        return self


class Tote(Part):
    """A cut tote: a box with rounded corners."""

    kind: Literal["tote"] = "tote"
    length: Size = Field(default=1.15, title="Length inside")
    width: Size = Field(default=0.95, title="Width inside")
    height: Size = Field(title="Height inside", description="Floor to where it was cut.")
    corner_radius: Annotated[Height, Field(ge=0.0, le=0.4)] = Field(
        default=0.1, title="Corner radius"
    )

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if 2.0 * self.corner_radius > min(self.length, self.width):
            raise ValueError("the corners must fit within the width")
        return self


class LevelPoint(Part):
    """One mark of a vessel that was measured: the water it holds up to a level."""

    level: Height
    volume: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False)]


class Measured(Part):
    """A shell of any shape, known by the water poured in [m³] against the level reached [m]."""

    kind: Literal["measured"] = "measured"
    marks: Annotated[tuple[LevelPoint, ...], Field(min_length=2, max_length=50)]

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.marks[0].level != 0.0 or self.marks[0].volume != 0.0:
            raise ValueError("the first mark is the floor: level 0, volume 0")
        for number, (one, two) in enumerate(zip(self.marks, self.marks[1:], strict=False), start=2):
            if two.level <= one.level or two.volume <= one.volume:
                raise ValueError(f"mark {number} must be higher and hold more than the one before")
        return self

    @property
    def height(self) -> float:
        """Height of the rim over the floor [m]."""
        return self.marks[-1].level


Shape = Annotated[Box | Cylinder | Cone | Dish | Tote | Measured, Field(discriminator="kind")]
