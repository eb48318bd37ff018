"""A cut tote: a box with rounded corners."""

import math
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Height, Size
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "Tote"]

_USUAL_CORNER = 0.1  # radius [m]
_CUT_OFF = 4.0 - math.pi  # four quarter circles stand where the corners of the box would be


class Tote(Shell):
    """A cut tote: a box with rounded corners."""

    CHOICE: ClassVar[str] = "cut tote"
    SCALED: ClassVar[tuple[str, ...]] = ("length", "width", "height")

    kind: Literal["tote"] = "tote"
    length: Size = Field(default=1.15, title="Length inside")
    width: Size = Field(default=0.95, title="Width inside")
    height: Size = Field(title="Height inside", description="Floor to where it was cut.")
    corner_radius: Annotated[Height, Field(ge=0.0, le=0.4)] = Field(
        default=_USUAL_CORNER, title="Corner radius"
    )

    cut: Literal["top_off", "upside_down"] = Field(
        default="top_off",
        title="Cut from",
        description="A tank from the foot of the tote, or a tray from its top, turned over.",
    )
    has_bars: bool = Field(
        default=True,
        title="Its cage holds the walls",
        description="Without bars a wall bulges under more than 40 cm (16 in) of water.",
    )

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if 2.0 * self.corner_radius > min(self.length, self.width):
            raise ValueError("the corners must fit within the width")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        """As :meth:`Shell.like`, its corners counted."""
        corner = min(_USUAL_CORNER, 0.25 * min(other.sides_of_area(other.footprint)))
        length, width = other.sides_of_area(other.footprint + _CUT_OFF * corner**2)
        return cls(length=length, width=width, height=other.height, corner_radius=corner)

    @property
    def cut_from(self) -> Literal["", "foot", "top"]:
        return "foot" if self.cut == "top_off" else "top"

    @property
    def layers(self) -> list[Layer]:
        return [(0.0, self.length * self.width - _CUT_OFF * self.corner_radius**2)]

    @property
    def sides(self) -> tuple[float, float]:
        return self.length, self.width

    @property
    def perimeter(self) -> float:
        return 2.0 * (self.length + self.width) - (8.0 - 2.0 * math.pi) * self.corner_radius

    def width_at(self, level: float) -> float:
        """Its length [m]."""
        return self.length


MODEL = Tote
