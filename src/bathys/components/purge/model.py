"""Sludge let out of a settler at set times."""

from typing import TYPE_CHECKING, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Clock, Cycle, Flow, Identifier, Volume
from bathys.plan.supply import Move, Transfer

if TYPE_CHECKING:
    from bathys.plan.vessel import Vessel

__all__ = ["MODEL", "SludgePurge"]


class SludgePurge(Transfer):
    """Sludge let out by a settler's drain, clear water with it, to the garden or into a drum."""

    kind: Literal["purge"] = "purge"
    source: Identifier = Field(title="From", description="The settler.")
    target: Identifier | None = Field(
        default=None, title="To", description="A vessel; none for what leaves the system."
    )
    volume: Volume = Field(
        title="Let out each time", description="Sludge, and the clear water that comes with it."
    )
    flow: Flow = Field(default=5e-4, title="How fast")
    at: Clock = Field(default=28800.0, title="First at", description="Time of the day.")
    every: Cycle = Field(default=604800.0, title="Again after")

    @property
    def vessels(self) -> tuple[str, ...]:
        """The settler, and where it goes if that is in the plan."""
        return tuple(v for v in (self.source, self.target) if v is not None)

    @property
    def takes_sludge(self) -> str:
        """The settler."""
        return self.source

    def moves(self, vessels: dict[str, "Vessel"]) -> tuple[Move, ...]:
        """What is let out: its volume [m³] at its flow [m³/s]."""
        if self.volume <= 0.0:
            return ()
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


MODEL = SludgePurge
