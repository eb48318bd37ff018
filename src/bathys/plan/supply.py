"""Water that comes and goes by itself: float valves that top up, and transfers by the clock."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.base import Headed
from bathys.plan.quantities import Clock, Flow, Height, Identifier, Interval, Volume

__all__ = ["TopUp", "Transfer"]


class TopUp(Headed):
    """A float valve that lets fresh water in when the level is low."""

    kind: Literal["float_valve"] = "float_valve"
    stands_in: Identifier
    level: Height = Field(title="Shuts at", description="Level over the vessel's floor.")
    flow: Flow = Field(title="Flow when open")


class Transfer(Headed):
    """Water that is moved at a set time: by hand, by a dosing pump, out to the garden."""

    KIND: ClassVar[str] = "transfer"

    source: Identifier | None = Field(
        default=None, title="From", description="A vessel; none for fresh water."
    )
    target: Identifier | None = Field(
        default=None, title="To", description="A vessel; none for what leaves the system."
    )
    volume: Volume = Field(title="Amount")
    flow: Flow = Field(title="How fast")
    at: Clock = Field(default=28800.0, title="First at", description="Time of the day.")
    every: Interval = Field(default=86400.0, title="Again after")

    @model_validator(mode="after")
    def _goes_somewhere(self) -> Self:
        if self.source == self.target:
            raise ValueError("it must lead from one place to another")
        if self.volume / self.flow >= self.every:
            raise ValueError("it must be done before it begins again")
        return self
