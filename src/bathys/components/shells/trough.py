"""A stock trough: straight sides with round ends."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.plan.quantities import Size
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "Trough"]

_USUAL = 2.0  # length over width


class Trough(Shell):
    """An upright shell with two straight sides and half a circle at each end."""

    CHOICE: ClassVar[str] = "stock trough, round ends"
    SCALED: ClassVar[tuple[str, ...]] = ("length", "height")

    kind: Literal["trough"] = "trough"
    length: Size = Field(title="Length inside", description="Over both round ends.")
    width: Size = Field(title="Width inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")

    @model_validator(mode="after")
    def _is_long(self) -> Self:
        if self.length < self.width:
            raise ValueError("a trough is at least as long as it is wide")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        share = _USUAL - 1.0 + 0.25 * math.pi  # its area over the square of its width
        width = math.sqrt(other.footprint / share)
        return cls(length=_USUAL * width, width=width, height=other.height)

    @property
    def layers(self) -> list[Layer]:
        return [(0.0, (self.length - self.width) * self.width + area_of(self.width))]

    @property
    def sides(self) -> tuple[float, float]:
        return self.length, self.width

    @property
    def perimeter(self) -> float:
        return 2.0 * (self.length - self.width) + math.pi * self.width

    def width_at(self, level: float) -> float:
        """Its length [m]."""
        return self.length


MODEL = Trough
