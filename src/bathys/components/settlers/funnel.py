"""An inverted funnel."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.physics import area_of
from bathys.plan.quantities import Height, Size
from bathys.plan.settler import Line, Rung, Settler
from bathys.plan.shell import Shell

__all__ = ["MODEL", "Funnel"]


class Funnel(Settler):
    """Water comes down inside an inverted funnel and rises around it."""

    CHOICE: ClassVar[str] = "inverted funnel"
    STEPS: ClassVar[float] = 3.0
    USED: ClassVar[float] = 0.8
    FITTED: ClassVar[str] = "assumed"
    HEIGHTS: ClassVar[tuple[str, ...]] = ("mouth_height",)
    UNDER_WATER: ClassVar[tuple[str, ...]] = ("mouth_height",)
    WIDTHS: ClassVar[tuple[str, ...]] = ("mouth_diameter",)

    kind: Literal["funnel"] = "funnel"
    mouth_diameter: Size = Field(title="Funnel's mouth, diameter")
    mouth_height: Height = Field(title="Funnel's mouth", description="Over the vessel's floor.")

    @classmethod
    def usual(cls, shell: Shell) -> dict[str, Any]:
        return {
            "mouth_diameter": round(max(0.6 * shell.across, 0.02), 3),
            "mouth_height": round(0.35 * shell.height, 3),
        }

    def inner_rungs(self, shell: Shell) -> tuple[Rung, ...]:
        return (Rung("funnel's mouth", area_of(self.mouth_diameter)),)

    def inner_lines(self, shell: Shell) -> tuple[Line, ...]:
        """The funnel, from its spout over the water down to its mouth."""
        wide, spout = 0.5 * self.mouth_diameter, 0.06 * shell.across
        neck = 0.5 * (self.mouth_height + shell.height)
        return tuple(
            (
                "baffle",
                ((s * spout, shell.height), (s * spout, neck), (s * wide, self.mouth_height)),
            )
            for s in (-1.0, 1.0)
        )

    def inner_heights(self) -> tuple[tuple[str, float], ...]:
        return (("funnel, mouth", self.mouth_height),)

    def open_area(self, shell: Shell) -> float:
        """Around the funnel's mouth [m²]."""
        return max(shell.footprint - area_of(self.mouth_diameter), 1e-4)

    def fault(self, shell: Shell) -> tuple[str, str] | None:
        if area_of(self.mouth_diameter) >= 0.9 * shell.footprint:
            return "mouth_diameter", "the funnel must leave room around it"
        if self.mouth_height > shell.height:
            return "mouth_height", "the funnel's mouth would lie over the rim"
        return super().fault(shell)


MODEL = Funnel
