"""An air stone or diffuser in a vessel."""

from typing import Annotated, Literal

from pydantic import Field

from bathys.physics.air import line_loss, water_pressure
from bathys.physics.oxygen import IN_FISH_WATER, bubble_transfer
from bathys.plan.quantities import Height, Length
from bathys.plan.stock import Aerator

__all__ = ["MODEL", "AirStone"]

_EFFICIENCY = {"fine": 0.025, "medium": 0.015, "coarse": 0.0075}  # for each 0.3 m (memory) [-]
_OPENS_AT = {
    "fine": 4000.0,
    "medium": 2000.0,
    "coarse": 1000.0,
}  # whenever air flows (assumed) [Pa]
_A_FOOT = 0.3  # [m]
_WIDE_OPEN = 4.0e10  # pressure over the flow squared of an open air valve (assumed) [Pa s²/m⁶]


class AirStone(Aerator):
    """Bubbles that rise through the water above it."""

    kind: Literal["stone"] = "stone"
    height: Height = Field(default=0.05, title="Height", description="Over the vessel's floor.")
    bubbles: Literal["fine", "medium", "coarse"] = Field(default="medium", title="Bubbles")
    line_length: Length = Field(default=2.0, title="Length of its air line")
    line_diameter: Annotated[Height, Field(ge=0.001, le=0.1)] = Field(
        default=0.006, title="Air line, inside"
    )

    @property
    def mouth(self) -> float:
        return self.height

    def transfer(self, air: float, level: float, temperature: float) -> float:
        deep = max(level - self.height, 0.0)
        efficiency = min(_EFFICIENCY[self.bubbles] * deep / _A_FOOT, 0.5)
        return bubble_transfer(air, efficiency, temperature, IN_FISH_WATER)

    def asks(self, air: float, level: float, density: float) -> float:
        still = water_pressure(level - self.height, density) + _OPENS_AT[self.bubbles]
        valve = _WIDE_OPEN * (air / self.valve_open) ** 2
        return still + valve + line_loss(air, self.line_diameter, self.line_length)


MODEL = AirStone
