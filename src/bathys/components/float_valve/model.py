"""A float valve on a pipe of fresh water, or on one from a rain drum."""

import math
from typing import Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.physics.openings import ORIFICE_COEFFICIENT
from bathys.plan.openings import Drill
from bathys.plan.quantities import Identifier, Pressure
from bathys.plan.supply import TopUp

__all__ = ["MODEL", "FloatValve"]

_DENSITY = 998.0  # of water at 20 °C (IAPWS 2008, table value) [kg/m³]


class FloatValve(TopUp):
    """A float valve that lets fresh water in when the level is low."""

    kind: Literal["float_valve"] = "float_valve"
    source: Identifier | None = Field(
        default=None, title="From", description="A rain drum; none for the mains."
    )
    supply: Pressure | None = Field(
        default=None,
        title="Supply pressure",
        description="With the seat's bore it tells the flow; none for the flow above.",
    )
    seat: Drill | None = Field(default=None, title="Bore of its seat")

    @property
    def lets_in(self) -> float:
        """Its flow, or what the pressure drives through its seat: Q = Cd a √(2 p/ρ) [m³/s]."""
        if self.supply is None or self.seat is None:
            return self.flow
        return ORIFICE_COEFFICIENT * area_of(self.seat) * math.sqrt(2.0 * self.supply / _DENSITY)

    @property
    def draws_from(self) -> str | None:
        """The rain drum."""
        return self.source

    @model_validator(mode="after")
    def _draws_elsewhere(self) -> Self:
        if self.source == self.stands_in:
            raise ValueError("a float valve cannot draw from the vessel that it fills")
        return self


MODEL = FloatValve
