"""A loop of tube outside the bed."""

from typing import Literal, Self

from pydantic import Field, model_validator

from bathys.plan.bore import Bore
from bathys.plan.quantities import Angle, BreakShare, CoefficientDoubt, Depth, StartFroude
from bathys.plan.way_out import (
    BREAKS_AT,
    BREAKS_AT_DOUBT,
    END_ELBOW,
    STARTS_AT,
    STARTS_AT_DOUBT,
    Siphon,
)

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
    end_elbow: Angle | None = END_ELBOW
    starts_at: StartFroude | None = STARTS_AT
    starts_at_doubt: CoefficientDoubt | None = STARTS_AT_DOUBT
    breaks_at: BreakShare | None = BREAKS_AT
    breaks_at_doubt: CoefficientDoubt | None = BREAKS_AT_DOUBT
    lowest_crest: Depth | None = Field(
        default=None, title="Loop may be set from", description="None for a loop that is fixed."
    )
    highest_crest: Depth | None = Field(default=None, title="Loop may be set up to")

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

    @property
    def crest_range(self) -> tuple[float, float]:
        """Lowest and highest setting of its top; twice the same of one that is fixed [m]."""
        own = self.crest_height
        return self.lowest_crest or own, self.highest_crest or own

    def leaves_at(self, bore: float) -> float:
        """The middle of the tube at the top of the loop [m]."""
        return self.crest_height + 0.5 * bore

    @model_validator(mode="after")
    def _heights_rise(self) -> Self:
        if self.bulkhead_height + self.bore.inside >= self.crest_height:
            raise ValueError("the bulkhead must lie well below the top of the loop")
        low, high = self.crest_range
        if not low <= self.crest_height <= high:
            raise ValueError("the loop must stand within the range that it may be set in")
        if self.bulkhead_height + self.bore.inside >= low:
            raise ValueError("the bulkhead must lie well below the lowest setting of the loop")
        return self


MODEL = LoopSiphon
