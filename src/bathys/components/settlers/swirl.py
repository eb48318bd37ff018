"""A swirl separator."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.plan.quantities import Angle, Height
from bathys.plan.settler import Line, Rung, Settler
from bathys.plan.shell import Shell

__all__ = ["MODEL", "Swirl"]


class Swirl(Settler):
    """The inlet blows along the wall and turns the water; solids slide to the floor's middle."""

    CHOICE: ClassVar[str] = "swirl, inlet along the wall"
    STEPS: ClassVar[float] = 1.0
    USED: ClassVar[float] = 0.15
    FITTED: ClassVar[str] = (
        "fitted to 37% caught at 3.1 mm/s (Davidson and Summerfelt 2005, memory)"
    )
    HEIGHTS: ClassVar[tuple[str, ...]] = ("inlet_height",)
    UNDER_WATER: ClassVar[tuple[str, ...]] = ("inlet_height",)

    kind: Literal["swirl"] = "swirl"
    inlet_height: Height = Field(title="Inlet's mouth", description="Over the vessel's floor.")
    inlet_angle: Angle = Field(
        default=0.0, title="Inlet turned from the wall", description="0° blows along the wall."
    )

    @classmethod
    def usual(cls, shell: Shell) -> dict[str, Any]:
        return {"inlet_height": round(0.5 * shell.height, 3)}

    def inner_rungs(self, shell: Shell) -> tuple[Rung, ...]:
        return ()

    def inner_lines(self, shell: Shell) -> tuple[Line, ...]:
        """The inlet pipe, along the wall."""
        wall = 0.5 * shell.width_at(min(self.inlet_height, shell.height))
        return (("inlet", ((-wall, self.inlet_height), (-0.7 * wall, self.inlet_height))),)

    def inner_heights(self) -> tuple[tuple[str, float], ...]:
        return (("inlet", self.inlet_height),)

    def open_area(self, shell: Shell) -> float:
        """All of it, of which little settles [m²]."""
        return shell.footprint

    def fault(self, shell: Shell) -> tuple[str, str] | None:
        if self.inlet_height > shell.height:
            return "inlet_height", "the inlet's mouth would lie over the rim"
        return super().fault(shell)


MODEL = Swirl
