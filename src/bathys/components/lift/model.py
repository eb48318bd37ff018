"""An overflow that draws from the bottom."""

from typing import Literal, Self

from pydantic import Field, model_validator

from bathys.plan.bore import Bore
from bathys.plan.quantities import Depth, Height
from bathys.plan.way_out import Outlet

__all__ = ["MODEL", "SolidsLift"]


class SolidsLift(Outlet):
    """An overflow that draws from the bottom: up a pipe, over a crest, into ``<id>.out``."""

    HEIGHTS = (("crest_height", "the crest"),)

    kind: Literal["lift"] = "lift"
    bore: Bore = Field(title="Bore of the lift pipe")
    intake_height: Height = Field(title="Intake height", description="Over the floor.")
    crest_height: Depth = Field(
        title="Crest height", description="Invert of the pipe that leads away, over the floor."
    )
    vented: bool = Field(
        default=True, title="Open tee", description="An open top over the crest lets air in."
    )

    @property
    def pipe(self) -> Bore:
        """Its lift pipe."""
        return self.bore

    @property
    def spills_from(self) -> float:
        """Its crest [m]."""
        return self.crest_height

    @property
    def is_closed(self) -> bool:
        """Without an open tee."""
        return not self.vented

    @property
    def takes_from(self) -> float:
        """Its intake [m]."""
        return self.intake_height

    @property
    def draws_to(self) -> float:
        """Its crest, or its intake if it may siphon [m]."""
        return self.intake_height if self.is_closed else self.crest_height

    def leaves_at(self, bore: float) -> float:
        """The middle of the pipe that leads away [m]."""
        return self.crest_height + 0.5 * bore

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.intake_height >= self.crest_height:
            raise ValueError("the intake of a lift must lie below its crest")
        return self


MODEL = SolidsLift
