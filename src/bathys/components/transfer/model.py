"""Water that is carried by the clock."""

from typing import TYPE_CHECKING, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Clock, Flow, Identifier, Interval, Volume
from bathys.plan.supply import Move, Transfer

if TYPE_CHECKING:
    from bathys.plan.vessel import Vessel

__all__ = ["MODEL", "ClockedTransfer"]


class ClockedTransfer(Transfer):
    """Water that is moved at a set time: by hand, by a dosing pump, out to the garden."""

    kind: Literal["transfer"] = "transfer"
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

    @property
    def vessels(self) -> tuple[str, ...]:
        """Where it comes from and goes to, as far as that is in the plan."""
        return tuple(v for v in (self.source, self.target) if v is not None)

    def moves(self, vessels: dict[str, "Vessel"]) -> tuple[Move, ...]:
        """Itself: its volume [m³] at its flow [m³/s]."""
        return (
            Move(
                self.id,
                self.name,
                self.source,
                self.target,
                self.volume,
                self.flow,
                self.at,
                self.every,
            ),
        )

    @model_validator(mode="after")
    def _goes_somewhere(self) -> Self:
        if self.source == self.target:
            raise ValueError("it must lead from one place to another")
        if self.volume / self.flow >= self.every:
            raise ValueError("it must be done before it begins again")
        return self


MODEL = ClockedTransfer
