"""A float switch."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.plan.quantities import Height
from bathys.plan.switch import Band, Switch

__all__ = ["MODEL", "FloatSwitch"]


class FloatSwitch(Switch):
    """Runs when the water is high and stops when it is low."""

    CHOICE: ClassVar[str] = "a float"
    START: ClassVar[str] = "on_height"

    kind: Literal["float"] = "float"
    on_height: Height = Field(title="Starts at", description="Level over the vessel's floor.")
    off_height: Height = Field(title="Stops at", description="Level over the vessel's floor.")

    @classmethod
    def usual(cls) -> dict[str, Any]:
        return {"on_height": 0.3, "off_height": 0.15}

    def band_over(self, inlet_height: float) -> Band:
        return Band(self.off_height, self.on_height)

    def fault(self, inlet_height: float) -> tuple[str, str] | None:
        if self.off_height >= self.on_height:
            return "off_height", "the float must stop the pump below its start"
        if self.off_height < inlet_height:
            return "off_height", "the float must stop the pump above the pump's inlet"
        return None


MODEL = FloatSwitch
