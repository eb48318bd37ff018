"""An open fall on a splash plate."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.parts.fittings import EXIT_LOSS
from bathys.plan.end import End, EndLoss
from bathys.plan.quantities import Height

__all__ = ["MODEL", "SplashPlate"]


class SplashPlate(End):
    """An open end over a plate that spreads the fall and keeps media from being washed away."""

    CHOICE: ClassVar[str] = "an open fall on a splash plate"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (0.0, 0.0), (0.0, 10.0), (-9.0, 10.0), (9.0, 10.0),
    )  # fmt: skip

    kind: Literal["splash"] = "splash"
    drop: Height = Field(title="Fall on the plate", description="From the run's end.")

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {"drop": 0.05}

    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        """The jet's velocity head, since it falls free [m, -]."""
        return (("jet on the splash plate", bore, EXIT_LOSS),)


MODEL = SplashPlate
