"""A venturi that draws in air."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.parts.fittings import EXIT_LOSS
from bathys.physics.venturi import RECOVERED_LOSS, venturi_air
from bathys.plan.end import End, EndLoss
from bathys.plan.quantities import Height

__all__ = ["MODEL", "Venturi"]


class Venturi(End):
    """A narrow throat under water with an air tube on it."""

    CHOICE: ClassVar[str] = "a venturi that draws in air"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-5.0, 0.0), (-1.5, 5.0), (-5.0, 10.0), (5.0, 10.0), (1.5, 5.0), (5.0, 0.0),
    )  # fmt: skip

    kind: Literal["venturi"] = "venturi"
    throat: Annotated[Height, Field(ge=0.003, le=0.1)] = Field(
        title="Throat of the venturi", description="Narrower than the run."
    )

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {"throat": round(max(0.5 * bore, 0.004), 3)}

    @property
    def smallest_hole(self) -> float:
        return self.throat

    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        """What the throat costs, and the velocity head that leaves it [m, -]."""
        narrow = min(self.throat, bore)
        return (
            ("throat of the venturi", narrow, RECOVERED_LOSS),
            ("water leaving the venturi", bore, EXIT_LOSS),
        )

    def draws_air(self, flow: float, bore: float, depth: float) -> float:
        return venturi_air(flow, min(self.throat, bore), depth)


MODEL = Venturi
