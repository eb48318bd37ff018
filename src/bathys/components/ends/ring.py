"""A perforated ring."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.physics import area_of
from bathys.physics.openings import manifold_unevenness, orifice_loss_coefficient
from bathys.plan.end import End, EndLoss
from bathys.plan.quantities import Count, Height, Size

__all__ = ["MODEL", "PerforatedRing"]


class PerforatedRing(End):
    """A ring of pipe with drilled holes, fed by a tee, so that water goes both ways round."""

    CHOICE: ClassVar[str] = "a perforated ring"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-12.0, 0.0), (-8.0, 4.0), (8.0, 4.0), (12.0, 0.0), (8.0, -4.0), (-8.0, -4.0), (-12.0, 0.0),
    )  # fmt: skip

    kind: Literal["ring"] = "ring"
    ring_diameter: Size = Field(title="Diameter of the ring")
    holes: Count = Field(title="Holes")
    diameter: Annotated[Height, Field(ge=0.0005, le=0.1)] = Field(title="Hole diameter")

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {"ring_diameter": 0.5, "holes": 20, "diameter": 0.006}

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
        return ((f"{self.holes} holes of the ring", as_one, orifice_loss_coefficient()),)

    def unevenness(self, bore: float) -> float:
        """Each half of the ring feeds half of the holes [-]."""
        return manifold_unevenness(0.5 * self.area, area_of(bore))


MODEL = PerforatedRing
