"""An upright cylinder over a cone."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.plan.quantities import Size
from bathys.plan.shell import Layer, Shell, sliced

__all__ = ["MODEL", "Cone"]


class Cone(Shell):
    """An upright cylinder over a cone."""

    CHOICE: ClassVar[str] = "cylinder over a cone"
    SCALED: ClassVar[tuple[str, ...]] = ("diameter", "height")

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

    @classmethod
    def like(cls, other: Shell) -> Self:
        wide = other.across
        return cls(
            diameter=wide,
            height=other.height,
            cone_height=0.3 * other.height,
            bottom_diameter=min(0.05, 0.5 * wide),
        )

    def _frustum(self, level: float) -> float:
        """Frustum of a cone: π h (d² + d D + D²)/12."""
        foot, wide = self.bottom_diameter, self.width_at(level)
        return math.pi / 12.0 * level * (foot**2 + foot * wide + wide**2)

    @property
    def layers(self) -> list[Layer]:
        upright = (self.cone_height, area_of(self.diameter))
        return [*sliced(self.cone_height, self._frustum), upright]

    @property
    def bottom(self) -> float:
        return self.cone_height

    def width_at(self, level: float) -> float:
        """Its diameter there [m]."""
        grow = (self.diameter - self.bottom_diameter) / self.cone_height
        return min(self.bottom_diameter + grow * level, self.diameter)


MODEL = Cone
