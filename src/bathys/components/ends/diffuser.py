"""A diffuser."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.parts.fittings import EXIT_LOSS, diffuser_loss
from bathys.plan.end import End, EndLoss
from bathys.plan.quantities import Size

__all__ = ["MODEL", "Diffuser"]


class Diffuser(End):
    """An end that widens slowly, so that water leaves it calmly and less head is lost."""

    CHOICE: ClassVar[str] = "a diffuser"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-4.0, 0.0), (-8.0, 11.0), (8.0, 11.0), (4.0, 0.0),
    )  # fmt: skip

    kind: Literal["diffuser"] = "diffuser"
    mouth: Size = Field(title="Diameter of its mouth", description="Wider than the run.")

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {"mouth": round(max(2.0 * bore, 0.01), 3)}

    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        """What widening costs, and what of the velocity head still leaves its mouth [m, -]."""
        wide = max(self.mouth, bore)
        return (
            ("widening of the diffuser", bore, diffuser_loss(bore, wide)),
            ("water leaving the diffuser", wide, EXIT_LOSS),
        )


MODEL = Diffuser
