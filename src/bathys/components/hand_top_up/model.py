"""Fresh water let in by hand, every so many days."""

from typing import Literal

from pydantic import Field

from bathys.plan.quantities import Clock, Cycle
from bathys.plan.supply import TopUp, Visit

__all__ = ["MODEL", "HandTopUp"]

_LASTS = 3600.0  # somebody stands there for an hour at most [s]


class HandTopUp(TopUp):
    """A hose held in by hand until the water is back at its mark."""

    kind: Literal["hand"] = "hand"
    at: Clock = Field(default=28800.0, title="First at", description="Time of the day.")
    every: Cycle = Field(default=259200.0, title="Again after")

    @property
    def visit(self) -> Visit:
        """An hour at most, every so often."""
        return Visit(self.at, self.every, _LASTS)


MODEL = HandTopUp
