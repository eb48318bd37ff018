"""A spray bar."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.physics import area_of
from bathys.physics.openings import manifold_unevenness, orifice_loss_coefficient
from bathys.plan.end import End, EndLoss
from bathys.plan.quantities import Count, Height

__all__ = ["MODEL", "SprayBar"]


class SprayBar(End):
    """A bar with drilled holes, fed at one end."""

    CHOICE: ClassVar[str] = "a spray bar"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-9.0, 0.0), (9.0, 0.0), (9.0, 4.0), (9.0, 0.0), (0.0, 0.0), (0.0, 4.0), (0.0, 0.0),
        (-9.0, 0.0), (-9.0, 4.0),
    )  # fmt: skip

    kind: Literal["spray"] = "spray"
    holes: Count = Field(title="Holes")
    diameter: Annotated[Height, Field(ge=0.0005, le=0.1)] = Field(title="Hole diameter")

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {"holes": 30, "diameter": 0.004}

    @property
    def area(self) -> float:
        """Of all holes [m²]."""
        return self.holes * area_of(self.diameter)

    @property
    def small_holes(self) -> int:
        return self.holes

    @property
    def smallest_hole(self) -> float:
        return self.diameter

    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        """Q = Cd A √(2 g h) through all holes together [m, -]."""
        as_one = self.diameter * self.holes**0.5
        return ((f"{self.holes} holes of the spray bar", as_one, orifice_loss_coefficient()),)

    def unevenness(self, bore: float) -> float:
        return manifold_unevenness(self.area, area_of(bore))


MODEL = SprayBar
