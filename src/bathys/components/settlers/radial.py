"""A radial-flow settler."""

import math
from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.physics import area_of
from bathys.plan.quantities import Depth, Height, Size
from bathys.plan.settler import Line, Rung, Settler
from bathys.plan.shell import Shell

__all__ = ["MODEL", "RadialFlow"]


class RadialFlow(Settler):
    """Up a centre pipe into a stilling well, down and out under its skirt, slowly up, and over a
    ring or through holes."""

    CHOICE: ClassVar[str] = "radial flow, with a stilling well"
    STEPS: ClassVar[float] = 4.0
    USED: ClassVar[float] = 1.0
    FITTED: ClassVar[str] = (
        "fitted to 78% caught at 3.1 mm/s (Davidson and Summerfelt 2005, memory)"
    )
    HEIGHTS: ClassVar[tuple[str, ...]] = ("well_foot", "well_height", "inlet_height")
    UNDER_WATER: ClassVar[tuple[str, ...]] = ("inlet_height",)
    WIDTHS: ClassVar[tuple[str, ...]] = ("well_diameter",)

    kind: Literal["radial"] = "radial"
    well_diameter: Size = Field(title="Stilling well, diameter")
    well_foot: Height = Field(title="Well's lower edge", description="Over the vessel's floor.")
    well_height: Depth = Field(
        title="Well's upper edge",
        description="Over the vessel's floor; it stands out of the water.",
    )
    inlet_height: Height = Field(title="Inlet's mouth", description="Within the well.")

    @classmethod
    def usual(cls, shell: Shell) -> dict[str, Any]:
        tall = shell.height
        return {
            "well_diameter": round(max(0.33 * shell.across, 0.02), 3),
            "well_foot": round(0.45 * tall, 3),
            "well_height": round(0.95 * tall, 3),
            "inlet_height": round(0.7 * tall, 3),
        }

    def _gap(self, shell: Shell) -> float:
        """From the skirt down to what lies under it: the floor, or the slope of a cone [m]."""
        marks = [shell.bottom * k / 40.0 for k in range(41)]
        under = max((z for z in marks if shell.width_at(z) <= self.well_diameter), default=0.0)
        return max(self.well_foot - under, 1e-4)

    def inner_rungs(self, shell: Shell) -> tuple[Rung, ...]:
        return (
            Rung("stilling well", area_of(self.well_diameter)),
            Rung("under the skirt", math.pi * self.well_diameter * self._gap(shell)),
        )

    def inner_lines(self, shell: Shell) -> tuple[Line, ...]:
        """The well's two walls, and the inlet pipe into it."""
        half = 0.5 * self.well_diameter
        walls = tuple(
            ("baffle", ((side * half, self.well_foot), (side * half, self.well_height)))
            for side in (-1.0, 1.0)
        )
        begins = -0.5 * shell.width_at(min(self.inlet_height, shell.height))
        inlet = ((begins, self.inlet_height), (0.0, self.inlet_height))
        return (*walls, ("inlet", inlet))

    def inner_heights(self) -> tuple[tuple[str, float], ...]:
        return (
            ("well, top", self.well_height),
            ("inlet", self.inlet_height),
            ("well, foot", self.well_foot),
        )

    def open_area(self, shell: Shell) -> float:
        """Around the well [m²]."""
        return max(shell.footprint - area_of(self.well_diameter), 1e-4)

    def fault(self, shell: Shell) -> tuple[str, str] | None:
        if area_of(self.well_diameter) >= 0.9 * shell.footprint:
            return "well_diameter", "the stilling well must leave room around it"
        if self.well_foot >= self.well_height:
            return "well_foot", "the well's lower edge must lie under its upper edge"
        if self.well_height > shell.height + 0.3:
            return "well_height", "the well would stand far over the vessel"
        if not self.well_foot <= self.inlet_height <= self.well_height:
            return "inlet_height", "the inlet's mouth must lie within the well"
        return super().fault(shell)


MODEL = RadialFlow
