"""An upright box."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from bathys.plan.quantities import Size
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "Box"]


class Box(Shell):
    """An upright box."""

    CHOICE: ClassVar[str] = "box"
    SCALED: ClassVar[tuple[str, ...]] = ("length", "width", "height")

    kind: Literal["box"] = "box"
    length: Size = Field(title="Length inside")
    width: Size = Field(title="Width inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")

    @classmethod
    def like(cls, other: Shell) -> Self:
        length, width = other.sides_of_area(other.footprint)
        return cls(length=length, width=width, height=other.height)

    @property
    def layers(self) -> list[Layer]:
        return [(0.0, self.length * self.width)]

    @property
    def sides(self) -> tuple[float, float]:
        return self.length, self.width

    @property
    def perimeter(self) -> float:
        return 2.0 * (self.length + self.width)

    def width_at(self, level: float) -> float:
        """Its length [m]."""
        return self.length


MODEL = Box
