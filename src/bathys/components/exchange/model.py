"""A share of a vessel's water let out, and as much fresh water let in."""

from typing import TYPE_CHECKING, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Clock, Cycle, Flow, Identifier, Opening
from bathys.plan.supply import Move, Transfer

if TYPE_CHECKING:
    from bathys.plan.vessel import Vessel

__all__ = ["MODEL", "WaterExchange"]

_USUAL_DEPTH = 0.8  # of a vessel that no depth is told of, over its height


class WaterExchange(Transfer):
    """A share of a vessel's water taken out at a set time, and replaced by fresh water at once."""

    kind: Literal["exchange"] = "exchange"
    stands_in: Identifier
    share: Opening = Field(title="Share exchanged", description="Of the vessel's water, each time.")
    flow: Flow = Field(title="How fast", description="Out, and then in.")
    at: Clock = Field(default=28800.0, title="First at", description="Time of the day.")
    every: Cycle = Field(default=604800.0, title="Again after")

    @property
    def vessels(self) -> tuple[str, ...]:
        """The vessel."""
        return (self.stands_in,)

    def volume_of(self, vessel: "Vessel") -> float:
        """What is exchanged each time, of the water the vessel is filled with [m³]."""
        depth = vessel.water_depth or _USUAL_DEPTH * vessel.shape.height
        return self.share * max(vessel.shape.holds(depth) - vessel.displaced, 0.0)

    def moves(self, vessels: dict[str, "Vessel"]) -> tuple[Move, ...]:
        """Out, and in as soon as that is done: volumes [m³] at its flow [m³/s]."""
        volume = self.volume_of(vessels[self.stands_in])
        if volume <= 0.0:
            return ()
        out = Move(self.id, self.name, self.stands_in, None, volume, self.flow, self.at, self.every)
        back = Move(
            self.id,
            self.name,
            None,
            self.stands_in,
            volume,
            self.flow,
            self.at + out.lasts,
            self.every,
        )
        return (out, back)

    @model_validator(mode="after")
    def _is_done_in_time(self) -> Self:
        if not self.share:
            raise ValueError("an exchange takes out some share of the water")
        return self


MODEL = WaterExchange
