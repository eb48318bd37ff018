"""A timer."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.plan.quantities import Time
from bathys.plan.switch import Clock, Switch

__all__ = ["MODEL", "Timer"]


class Timer(Switch):
    """Runs and rests by the clock."""

    CHOICE: ClassVar[str] = "a timer"
    REST: ClassVar[str] = "off"

    kind: Literal["timer"] = "timer"
    on: Time = Field(title="Runs for")
    off: Time = Field(title="Rests for")

    @classmethod
    def usual(cls) -> dict[str, Any]:
        return {"on": 900.0, "off": 2700.0}

    @property
    def clock(self) -> Clock:
        return Clock.even(self.on, self.off)


MODEL = Timer
