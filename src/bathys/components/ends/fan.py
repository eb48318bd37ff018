"""A fan nozzle."""

import math
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.physics.openings import orifice_loss_coefficient
from bathys.plan.end import End, EndLoss
from bathys.plan.quantities import Height

__all__ = ["MODEL", "Fan"]


class Fan(End):
    """A flattened end that spreads the water in a fan."""

    CHOICE: ClassVar[str] = "a fan"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (0.0, 0.0), (10.0, 8.0), (0.0, 0.0), (0.0, 10.0), (0.0, 0.0), (-10.0, 8.0),
    )  # fmt: skip

    kind: Literal["fan"] = "fan"
    slot_width: Annotated[Height, Field(ge=0.002, le=2.0)] = Field(title="Width of its slot")
    slot_gap: Annotated[Height, Field(ge=0.0005, le=0.1)] = Field(title="Height of its slot")

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {"slot_width": round(2.0 * bore, 3), "slot_gap": round(0.3 * bore, 4)}

    @property
    def smallest_hole(self) -> float:
        return self.slot_gap

    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        """Q = Cd A √(2 g h) through its slot [m, -]."""
        as_round = math.sqrt(4.0 / math.pi * self.slot_width * self.slot_gap)
        return (("slot of the fan", as_round, orifice_loss_coefficient()),)


MODEL = Fan
