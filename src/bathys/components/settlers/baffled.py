"""A baffled clarifier."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.plan.quantities import Height, Opening
from bathys.plan.settler import Line, Rung, Settler
from bathys.plan.shell import Shell

__all__ = ["MODEL", "Baffled"]


class Baffled(Settler):
    """A plate across the vessel makes the water go down before it, under it and up behind it."""

    CHOICE: ClassVar[str] = "baffled clarifier, one plate"
    STEPS: ClassVar[float] = 2.0
    USED: ClassVar[float] = 0.7
    FITTED: ClassVar[str] = "assumed"
    HEIGHTS: ClassVar[tuple[str, ...]] = ("plate_foot",)

    kind: Literal["baffled"] = "baffled"
    plate_foot: Annotated[Height, Field(ge=0.005)] = Field(
        title="Gap under the plate", description="The plate goes down to ⅔ or ¾ of the depth."
    )
    plate_at: Annotated[Opening, Field(ge=0.05, le=0.95)] = Field(
        default=0.3, title="Plate stands at", description="Share of the way from the inlet."
    )

    @classmethod
    def usual(cls, shell: Shell) -> dict[str, Any]:
        return {"plate_foot": round(0.3 * shell.height, 3)}

    def inner_rungs(self, shell: Shell) -> tuple[Rung, ...]:
        return (
            Rung("before the plate", self.plate_at * shell.footprint),
            Rung("under the plate", self.plate_foot * shell.sides[1]),
        )

    def inner_lines(self, shell: Shell) -> tuple[Line, ...]:
        """The plate."""
        at = (self.plate_at - 0.5) * shell.across
        return (("baffle", ((at, self.plate_foot), (at, shell.height))),)

    def inner_heights(self) -> tuple[tuple[str, float], ...]:
        return (("plate, foot", self.plate_foot),)

    def open_area(self, shell: Shell) -> float:
        """Behind the plate [m²]."""
        return (1.0 - self.plate_at) * shell.footprint

    def fault(self, shell: Shell) -> tuple[str, str] | None:
        if self.plate_foot >= shell.height:
            return "plate_foot", "the plate would hang over the rim"
        return super().fault(shell)


MODEL = Baffled
