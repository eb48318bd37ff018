"""A shell with sloped sides: a bath, a trough, a pond, a timber box that widens upwards."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Size
from bathys.plan.shell import NEARLY_ALL, Layer, Shell, sliced

__all__ = ["MODEL", "Tapered"]

_USUAL = 0.8  # floor over rim, each way


class Tapered(Shell):
    """A rectangle at its floor that widens evenly to one at its rim."""

    CHOICE: ClassVar[str] = "sloped sides: bath, pond, trough"
    SCALED: ClassVar[tuple[str, ...]] = ("length", "width", "height")

    kind: Literal["tapered"] = "tapered"
    length: Size = Field(title="Length at the rim")
    width: Size = Field(title="Width at the rim")
    floor_length: Size = Field(title="Length at the floor")
    floor_width: Size = Field(title="Width at the floor")
    height: Size = Field(title="Height inside", description="Floor to rim.")

    @model_validator(mode="after")
    def _widens(self) -> Self:
        if self.floor_length > self.length or self.floor_width > self.width:
            raise ValueError("the floor must be no larger than the rim")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        length, width = other.sides_of_area(other.footprint)
        return cls(
            length=length,
            width=width,
            floor_length=max(_USUAL * length, 0.01),
            floor_width=max(_USUAL * width, 0.01),
            height=other.height,
        )

    def _below(self, level: float) -> float:
        """Prismatoid: V = ∫ l(z) w(z) dz of sides that widen evenly [m³]."""
        wider = (self.length - self.floor_length) / self.height
        deeper = (self.width - self.floor_width) / self.height
        foot = self.floor_length * self.floor_width
        mixed = wider * self.floor_width + deeper * self.floor_length
        return level * (foot + level * (mixed / 2.0 + wider * deeper * level / 3.0))

    @property
    def layers(self) -> list[Layer]:
        return [*sliced(self.bottom, self._below), (self.bottom, self.footprint)]

    @property
    def footprint(self) -> float:
        return self.length * self.width

    @property
    def bottom(self) -> float:
        return NEARLY_ALL * self.height

    @property
    def sides(self) -> tuple[float, float]:
        return self.length, self.width

    @property
    def perimeter(self) -> float:
        return 2.0 * (self.length + self.width)

    def width_at(self, level: float) -> float:
        """Its length there [m]."""
        share = min(max(level / self.height, 0.0), 1.0)
        return self.floor_length + share * (self.length - self.floor_length)


MODEL = Tapered
