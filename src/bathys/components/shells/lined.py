"""A timber box with a liner."""

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Height, Size
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "LinedBox"]


class LinedBox(Shell):
    """A box of boards with a liner in it, told by the boards' inside; liner and underlay take a
    little off each side."""

    CHOICE: ClassVar[str] = "timber box with a liner"
    SCALED: ClassVar[tuple[str, ...]] = ("length", "width", "height")
    WALL_FITTINGS: ClassVar[tuple[str, ...]] = ("liner",)

    kind: Literal["lined"] = "lined"
    length: Size = Field(title="Length between the boards")
    width: Size = Field(title="Width between the boards")
    height: Size = Field(title="Height of the boards", description="Floor to rim.")
    lining: Annotated[Height, Field(ge=0.0, le=0.05)] = Field(
        default=0.003, title="Liner and underlay", description="Thickness of both, with folds."
    )
    overlap: Annotated[Height, Field(ge=0.0, le=1.0)] = Field(
        default=0.2, title="Liner over the rim", description="To fold over and fix, on each side."
    )

    @model_validator(mode="after")
    def _has_room(self) -> Self:
        if 2.0 * self.lining >= min(self.length, self.width) or self.lining >= self.height:
            raise ValueError("the liner must leave room within")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        length, width = other.sides_of_area(other.footprint)
        return cls(length=length, width=width, height=other.height, lining=0.0)

    @property
    def liner(self) -> tuple[float, float]:
        """Length and width of the sheet to buy [m]: floor, both walls and the overlap."""
        up = 2.0 * (self.height + self.overlap)
        return self.length + up, self.width + up

    @property
    def layers(self) -> list[Layer]:
        length, width = self.sides
        return [(0.0, length * width)]

    @property
    def sides(self) -> tuple[float, float]:
        return self.length - 2.0 * self.lining, self.width - 2.0 * self.lining

    @property
    def perimeter(self) -> float:
        return 2.0 * sum(self.sides)

    def width_at(self, level: float) -> float:
        """Its length [m]."""
        return self.sides[0]


MODEL = LinedBox
