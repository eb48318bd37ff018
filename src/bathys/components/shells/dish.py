"""An upright cylinder over a round dish."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.plan.quantities import Size
from bathys.plan.shell import Layer, Shell, sliced

__all__ = ["MODEL", "Dish"]


class Dish(Shell):
    """An upright cylinder over a round dish, a cap of a sphere."""

    CHOICE: ClassVar[str] = "cylinder over a dish"
    SCALED: ClassVar[tuple[str, ...]] = ("diameter", "height")

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

    @classmethod
    def like(cls, other: Shell) -> Self:
        deep = min(0.2 * other.height, 0.4 * other.across)
        return cls(diameter=other.across, height=other.height, dish_height=deep)

    @property
    def _radius(self) -> float:
        """Of the sphere [m]."""
        return (0.25 * self.diameter**2 + self.dish_height**2) / (2.0 * self.dish_height)

    def _cap(self, level: float) -> float:
        """Cap of a sphere: π h² (3 R − h)/3."""
        return math.pi / 3.0 * level**2 * (3.0 * self._radius - level)

    @property
    def layers(self) -> list[Layer]:
        upright = (self.dish_height, area_of(self.diameter))
        return [*sliced(self.dish_height, self._cap), upright]

    @property
    def bottom(self) -> float:
        return self.dish_height

    def width_at(self, level: float) -> float:
        """Its diameter there [m]."""
        if level >= self.dish_height:
            return self.diameter
        return 2.0 * math.sqrt(max(level * (2.0 * self._radius - level), 0.0))


MODEL = Dish
