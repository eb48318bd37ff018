"""A loop of tube outside the bed."""

from typing import Literal, Self

from pydantic import Field, model_validator

from bathys.plan.bore import Bore
from bathys.plan.quantities import Depth
from bathys.plan.way_out import TRAP, Siphon

__all__ = ["MODEL", "LoopSiphon"]


class LoopSiphon(Siphon):
    """A tube from a low bulkhead up over a crest outside the bed. Its tail is the run that starts
    at ``<id>.tail``, beyond the crest."""

    CREST = "crest"
    HEIGHTS = (("crest_height", "the crest"),)

    kind: Literal["loop"] = "loop"
    bore: Bore = Field(title="Tube bore")
    bulkhead_height: Depth = Field(
        title="Bulkhead height", description="Centre of the hole over the bed's floor."
    )
    crest_height: Depth = Field(
        title="Loop height", description="Invert at the top of the loop, over the floor."
    )
    trap: bool = TRAP

    @property
    def pipe(self) -> Bore:
        """Its tube."""
        return self.bore

    @property
    def widest(self) -> None:
        """Nothing: it stands outside the bed."""
        return None

    @property
    def spills_from(self) -> float:
        """The top of the loop [m]."""
        return self.crest_height

    @property
    def intake_height(self) -> float:
        """The crown of the hole [m]."""
        return self.bulkhead_height + 0.5 * self.bore.inside

    def leaves_at(self, bore: float) -> float:
        """The middle of the tube at the top of the loop [m]."""
        return self.crest_height + 0.5 * bore

    @model_validator(mode="after")
    def _heights_rise(self) -> Self:
        if self.bulkhead_height + self.bore.inside >= self.crest_height:
            raise ValueError("the bulkhead must lie well below the top of the loop")
        return self


MODEL = LoopSiphon
