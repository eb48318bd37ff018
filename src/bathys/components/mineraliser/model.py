"""The weekly round of a mineralising drum: air off, let it settle, decant, fill up with sludge."""

from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.quantities import Clock, Cycle, Flow, Identifier, Opening, Time
from bathys.plan.supply import Move, Transfer

if TYPE_CHECKING:
    from bathys.plan.vessel import Vessel

__all__ = ["MODEL", "MineralisingRound"]

_USUAL_DEPTH = 0.8  # of a vessel that no depth is told of, over its height


class MineralisingRound(Transfer):
    """An aerated drum beside the loop. Its air is stopped for some hours, its clear water goes to
    the plants, and it is filled up with sludge from the settler."""

    kind: Literal["mineraliser"] = "mineraliser"
    stands_in: Identifier
    source: Identifier | None = Field(
        default=None, title="From", description="The settler; without one nothing is done."
    )
    target: Identifier | None = Field(
        default=None,
        title="To",
        description="Where its clear water goes; none for what leaves the system.",
    )
    share: Annotated[Opening, Field(gt=0.0, le=0.8)] = Field(
        default=0.45, title="Decanted", description="Of its water each time: just under half."
    )
    air_off: Time = Field(
        default=9000.0, title="Air off before", description="Two to three hours, to settle."
    )
    flow: Flow = Field(default=5e-4, title="How fast")
    at: Clock = Field(default=28800.0, title="Air off at", description="Time of the day.")
    every: Cycle = Field(default=604800.0, title="Again after")

    @property
    def vessels(self) -> tuple[str, ...]:
        """The settler, the drum, and where its water goes."""
        return tuple(v for v in (self.source, self.stands_in, self.target) if v is not None)

    @property
    def takes_sludge(self) -> str | None:
        """The settler."""
        return self.source

    def held_by(self, vessel: "Vessel") -> float:
        """What the drum holds as it is filled [m³]."""
        depth = vessel.water_depth or _USUAL_DEPTH * vessel.shape.height
        return max(vessel.shape.holds(depth) - vessel.displaced, 0.0)

    def volume_of(self, vessel: "Vessel") -> float:
        """What is decanted each time, of the water the drum is filled with [m³]."""
        return self.share * self.held_by(vessel)

    def moves(self, vessels: dict[str, "Vessel"]) -> tuple[Move, ...]:
        """Out to the plants once it has settled, then in from the settler: volumes [m³] at its
        flow [m³/s]."""
        volume = self.volume_of(vessels[self.stands_in])
        if volume <= 0.0 or self.source is None:
            return ()
        begins = self.at + self.air_off
        out = Move(
            self.id, self.name, self.stands_in, self.target, volume, self.flow, begins, self.every
        )
        filled = Move(
            self.id,
            self.name,
            self.source,
            self.stands_in,
            volume,
            self.flow,
            begins + out.lasts,
            self.every,
        )
        return (out, filled)

    @model_validator(mode="after")
    def _goes_round(self) -> Self:
        if len(set(self.vessels)) < len(self.vessels):
            raise ValueError("it must lead from a settler, through the drum, to a third vessel")
        return self


MODEL = MineralisingRound
