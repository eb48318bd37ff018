"""A gate valve."""

from typing import ClassVar, Literal

from pydantic import Field

from bathys.parts.valves import gate_valve_loss
from bathys.plan.quantities import Opening
from bathys.plan.valve import Valve

__all__ = ["MODEL", "GateValve"]


class GateValve(Valve):
    """A gate valve."""

    CHOICE: ClassVar[str] = "gate valve"
    SETTING: ClassVar[str] = "opening"
    OPEN: ClassVar[float] = 1.0
    HAS_LEVER: ClassVar[bool] = False

    kind: Literal["gate"] = "gate"
    opening: Opening = Field(
        default=1.0, title="Gate open", description="Share of the bore: 100 % open, 0 shut."
    )

    @property
    def loss(self) -> float:
        return gate_valve_loss(self.opening)

    @property
    def turned(self) -> float:
        return 90.0

    @property
    def words(self) -> str:
        return f"gate {100.0 * self.opening:.0f} % open"

    @property
    def mark(self) -> str:
        return f"{100.0 * self.opening:.0f}%"


MODEL = GateValve
