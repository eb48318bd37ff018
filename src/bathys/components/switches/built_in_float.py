"""A float switch that is built into its pump."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.plan.quantities import Depth, Height
from bathys.plan.switch import Band, Switch

__all__ = ["MODEL", "BuiltInFloat"]


class BuiltInFloat(Switch):
    """Its marks stand over the pump's inlet, and move with the pump."""

    CHOICE: ClassVar[str] = "a float built into it"
    START: ClassVar[str] = ""

    kind: Literal["built_in"] = "built_in"
    stops_above: Height = Field(title="Stops over its inlet by", description="From its data sheet.")
    travel: Depth = Field(title="Starts higher by", description="The float's travel.")

    @classmethod
    def usual(cls) -> dict[str, Any]:
        return {"stops_above": 0.05, "travel": 0.2}

    def band_over(self, inlet_height: float) -> Band:
        stops = inlet_height + self.stops_above
        return Band(stops, stops + self.travel)


MODEL = BuiltInFloat
