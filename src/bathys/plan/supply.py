"""What all that brings and takes water by itself has, whatever its kind."""

from typing import Any, ClassVar, Self

from pydantic import Field, model_validator

from bathys.plan.base import Headed, Kind
from bathys.plan.quantities import Clock, Flow, Height, Identifier, Interval, Volume

__all__ = ["TopUp", "Transfer"]


class TopUp(Kind, Headed):
    """What lets fresh water into a vessel when its level is low."""

    GROUP: ClassVar[str] = "top_ups"

    kind: Any
    stands_in: Identifier
    level: Height = Field(title="Shuts at", description="Level over the vessel's floor.")
    flow: Flow = Field(title="Flow when open")


class Transfer(Kind, Headed):
    """Water that is moved at a set time."""

    GROUP: ClassVar[str] = "transfers"

    kind: Any
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
