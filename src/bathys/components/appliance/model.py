"""A heater, a lamp or whatever else is plugged in."""

from typing import Annotated, Literal

from pydantic import Field

from bathys.plan.plugged_in import PluggedIn
from bathys.plan.quantities import Clock, Identifier, Power, Ratio, Time

__all__ = ["MODEL", "Appliance"]


class Appliance(PluggedIn):
    """Something electrical that moves neither water nor air."""

    kind: Literal["appliance"] = "appliance"
    use: Literal["heater", "lamp", "controller", "other"] = Field(title="What it is")
    stands_in: Identifier
    power: Power = Field(title="Power", description="Watts drawn while it is on.")
    begins: Clock = Field(default=0.0, title="On from", description="Time of the day.")
    runs: Annotated[Time, Field(ge=60.0)] = Field(
        default=86400.0,
        title="On for",
        description="A day. Of a heater: how long its thermostat lets it heat.",
    )
    efficacy: Annotated[Ratio, Field(ge=0.1, le=5.0)] = Field(
        default=2.2,
        title="Light it gives",
        description="Of a lamp, in µmol for each joule: 1.0 tubes, 2.2 usual LED, 2.8 good ones.",
    )
    must_run: bool = Field(
        default=False, title="Fish need it", description="It must not stop in a power cut."
    )

    @property
    def watts(self) -> float:
        return self.power

    @property
    def needed(self) -> bool:
        return self.must_run

    @property
    def light(self) -> float:
        return self.power * self.efficacy if self.use == "lamp" else 0.0

    @property
    def spell(self) -> tuple[float, float]:
        return self.begins, self.runs


MODEL = Appliance
