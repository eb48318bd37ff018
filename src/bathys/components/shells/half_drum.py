"""Half a drum, lying."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field

from bathys.plan.quantities import Size
from bathys.plan.shell import NEARLY_ALL, Layer, Shell, sliced

__all__ = ["MODEL", "HalfDrum"]


class HalfDrum(Shell):
    """A drum cut along its length and laid down, open at the top."""

    CHOICE: ClassVar[str] = "half drum, lying"
    SCALED: ClassVar[tuple[str, ...]] = ("length",)

    kind: Literal["half_drum"] = "half_drum"
    diameter: Size = Field(title="Diameter inside")
    length: Size = Field(title="Length inside")

    @classmethod
    def like(cls, other: Shell) -> Self:
        wide = 2.0 * other.height
        return cls(diameter=wide, length=max(other.footprint / wide, 0.01))

    @property
    def height(self) -> float:
        """Half its diameter [m]."""
        return 0.5 * self.diameter

    def _segment(self, level: float) -> float:
        """Segment of a circle, R² acos(1 − h/R) − (R − h) √(2 R h − h²), times its length [m³]."""
        radius = self.height
        over = radius - min(level, radius)
        half = math.sqrt(max(radius**2 - over**2, 0.0))
        return self.length * (radius**2 * math.acos(over / radius) - over * half)

    @property
    def layers(self) -> list[Layer]:
        return [*sliced(self.bottom, self._segment), (self.bottom, self.footprint)]

    @property
    def footprint(self) -> float:
        return self.diameter * self.length

    @property
    def bottom(self) -> float:
        return NEARLY_ALL * self.height

    @property
    def sides(self) -> tuple[float, float]:
        return self.length, self.diameter

    @property
    def perimeter(self) -> float:
        return 2.0 * (self.length + self.diameter)

    def width_at(self, level: float) -> float:
        """As wide as it is across there, since it is drawn from its end [m]."""
        over = max(self.height - level, 0.0)
        return 2.0 * math.sqrt(max(self.height**2 - over**2, 1e-6))


MODEL = HalfDrum
