"""An upright cylinder."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from bathys.physics import area_of
from bathys.plan.quantities import Size
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "Cylinder"]


class Cylinder(Shell):
    """An upright cylinder."""

    CHOICE: ClassVar[str] = "cylinder, upright"
    SCALED: ClassVar[tuple[str, ...]] = ("diameter", "height")

    kind: Literal["cylinder"] = "cylinder"
    diameter: Size = Field(title="Diameter inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")

    @classmethod
    def like(cls, other: Shell) -> Self:
        return cls(diameter=other.across, height=other.height)

    @property
    def layers(self) -> list[Layer]:
        return [(0.0, area_of(self.diameter))]


MODEL = Cylinder
