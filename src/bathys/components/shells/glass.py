"""A glass tank, told by its outside and its glass."""

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Height, Size
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "Glass"]

_USUAL = 0.008  # thickness [m]


class Glass(Shell):
    """A box of glass panes. Drilled glass must not be toughened; its edge stays dry."""

    CHOICE: ClassVar[str] = "glass tank, by its outside"
    SCALED: ClassVar[tuple[str, ...]] = ("outside_length", "outside_width")
    WALL_FITTINGS: ClassVar[tuple[str, ...]] = ("glass",)

    kind: Literal["glass"] = "glass"
    outside_length: Size = Field(title="Length outside")
    outside_width: Size = Field(title="Width outside")
    outside_height: Size = Field(title="Height outside")
    thickness: Annotated[Height, Field(ge=0.002, le=0.05)] = Field(
        default=_USUAL, title="Thickness of the glass"
    )

    @model_validator(mode="after")
    def _has_room(self) -> Self:
        if 2.0 * self.thickness >= min(self.outside_length, self.outside_width):
            raise ValueError("the glass must leave room within")
        if self.thickness >= self.outside_height:
            raise ValueError("the glass must be thinner than the tank is high")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        length, width = other.sides_of_area(other.footprint)
        thin = min(_USUAL, 0.25 * min(length, width, other.height))
        return cls(
            outside_length=length + 2.0 * max(thin, 0.002),
            outside_width=width + 2.0 * max(thin, 0.002),
            outside_height=other.height + max(thin, 0.002),
            thickness=max(thin, 0.002),
        )

    @property
    def height(self) -> float:
        """From its floor pane to its rim [m]."""
        return self.outside_height - self.thickness

    @property
    def layers(self) -> list[Layer]:
        length, width = self.sides
        return [(0.0, length * width)]

    @property
    def sides(self) -> tuple[float, float]:
        return (
            self.outside_length - 2.0 * self.thickness,
            self.outside_width - 2.0 * self.thickness,
        )

    @property
    def perimeter(self) -> float:
        return 2.0 * sum(self.sides)

    def width_at(self, level: float) -> float:
        """Its length [m]."""
        return self.sides[0]


MODEL = Glass
