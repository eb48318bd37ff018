"""An air pump with a manifold."""

from typing import Annotated, Literal

from pydantic import Field

from bathys.physics.air import pump_pressure
from bathys.plan.quantities import Flow, Power, Pressure, Ratio
from bathys.plan.stock import AirSource

__all__ = ["MODEL", "AirPump"]


class AirPump(AirSource):
    """Air for several stones, told by its label."""

    kind: Literal["air_pump"] = "air_pump"
    max_flow: Flow = Field(title="Label flow", description="At no depth.")
    max_pressure: Pressure = Field(
        title="Greatest pressure", description="At no flow: 0.1 bar is a metre of water."
    )
    exponent: Annotated[Ratio, Field(ge=0.5, le=3.0)] = Field(
        default=1.2, title="Curve exponent", description="1 to 1.5 for membrane and piston pumps."
    )
    power: Power = Field(title="Power", description="Watts drawn, from the label or a meter.")

    @property
    def most_flow(self) -> float:
        return self.max_flow

    @property
    def most_pressure(self) -> float:
        return self.max_pressure

    @property
    def watts(self) -> float:
        return self.power

    def pressure(self, flow: float) -> float:
        return pump_pressure(flow, self.max_flow, self.max_pressure, self.exponent)


MODEL = AirPump
