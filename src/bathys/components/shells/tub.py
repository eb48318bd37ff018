"""A round shell that widens upwards: a bucket, a barrel cut off, a hot tub of staves."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.plan.quantities import Size
from bathys.plan.shell import NEARLY_ALL, Layer, Shell, sliced

__all__ = ["MODEL", "Tub"]

_USUAL = 0.85  # diameter of the floor over the rim's


class Tub(Shell):
    """A frustum of a cone, its wide end up."""

    CHOICE: ClassVar[str] = "round, widening: bucket, hot tub"
    SCALED: ClassVar[tuple[str, ...]] = ("diameter", "height")

    kind: Literal["tub"] = "tub"
    diameter: Size = Field(title="Diameter at the rim")
    floor_diameter: Size = Field(title="Diameter at the floor")
    height: Size = Field(title="Height inside", description="Floor to rim.")

    @model_validator(mode="after")
    def _widens(self) -> Self:
        if self.floor_diameter > self.diameter:
            raise ValueError("the floor must be no wider than the rim")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        wide = other.across
        return cls(diameter=wide, floor_diameter=max(_USUAL * wide, 0.01), height=other.height)

    def _frustum(self, level: float) -> float:
        """π h (d² + d D + D²)/12 [m³]."""
        foot, wide = self.floor_diameter, self.width_at(level)
        return math.pi / 12.0 * level * (foot**2 + foot * wide + wide**2)

    @property
    def layers(self) -> list[Layer]:
        return [*sliced(self.bottom, self._frustum), (self.bottom, self.footprint)]

    @property
    def footprint(self) -> float:
        return area_of(self.diameter)

    @property
    def bottom(self) -> float:
        return NEARLY_ALL * self.height

    def width_at(self, level: float) -> float:
        """Its diameter there [m]."""
        share = min(max(level / self.height, 0.0), 1.0)
        return self.floor_diameter + share * (self.diameter - self.floor_diameter)


MODEL = Tub
