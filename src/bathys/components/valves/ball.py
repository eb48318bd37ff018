"""A ball valve."""

from typing import ClassVar, Literal

from pydantic import Field

from bathys.parts.valves import ball_valve_loss
from bathys.plan.quantities import Angle
from bathys.plan.valve import Valve

__all__ = ["MODEL", "BallValve"]


class BallValve(Valve):
    """A throttling ball valve."""

    CHOICE: ClassVar[str] = "ball valve"
    SETTING: ClassVar[str] = "angle"
    OPEN: ClassVar[float] = 0.0
    HAS_LEVER: ClassVar[bool] = True

    kind: Literal["ball"] = "ball"
    angle: Angle = Field(
        default=0.0, title="Valve handle", description="Turned from open: 0° open, 90° shut."
    )

    @property
    def loss(self) -> float:
        return ball_valve_loss(self.angle)

    @property
    def turned(self) -> float:
        return self.angle

    @property
    def words(self) -> str:
        return f"valve at {self.mark}"

    @property
    def mark(self) -> str:
        return f"{self.angle:.0f}°"


MODEL = BallValve
