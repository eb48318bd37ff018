"""An air stone or diffuser in a vessel."""

from typing import Literal

from pydantic import Field

from bathys.physics.oxygen import bubble_transfer
from bathys.plan.quantities import Flow, Height
from bathys.plan.stock import Aerator

__all__ = ["MODEL", "AirStone"]

_EFFICIENCY = {"fine": 0.025, "medium": 0.015, "coarse": 0.0075}  # for each 0.3 m (memory) [-]
_A_FOOT = 0.3  # [m]
_ALPHA = 0.8  # transfer in fish water over that in clean water (memory) [-]


class AirStone(Aerator):
    """Bubbles that rise through the water above it."""

    kind: Literal["stone"] = "stone"
    height: Height = Field(default=0.05, title="Height", description="Over the vessel's floor.")
    flow: Flow = Field(
        title="Air", description="That it lets out at its depth, by its share of the pump's."
    )
    bubbles: Literal["fine", "medium", "coarse"] = Field(default="medium", title="Bubbles")

    @property
    def air(self) -> float:
        return self.flow

    def transfer(self, level: float, temperature: float) -> float:
        deep = max(level - self.height, 0.0)
        efficiency = min(_EFFICIENCY[self.bubbles] * deep / _A_FOOT, 0.5)
        return bubble_transfer(self.flow, efficiency, temperature, _ALPHA)


MODEL = AirStone
