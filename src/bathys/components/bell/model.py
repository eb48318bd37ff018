"""A bell over a standpipe."""

from typing import Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.physics.siphon import BREAK_SHARE_AIR_TUBE, BREAK_SHARE_PLAIN, Banded
from bathys.plan.bore import Bore
from bathys.plan.quantities import Depth, OpenArea, Size
from bathys.plan.way_out import TRAP, Siphon

__all__ = ["MODEL", "BellSiphon"]


class BellSiphon(Siphon):
    """A bell siphon in a bed. Its tail is the run that starts at ``<id>.tail``."""

    CREST = "top of the standpipe"
    HEIGHTS = (("rim_height", "the standpipe's rim"),)

    kind: Literal["bell"] = "bell"
    standpipe_bore: Bore = Field(title="Standpipe bore")
    rim_height: Depth = Field(title="Standpipe height", description="Rim over the bed's floor.")
    bell_bore: Bore = Field(title="Bell bore")
    slot_height: Depth = Field(
        title="Slot height", description="Top of the bell's slots over the floor."
    )
    slot_area: OpenArea = Field(title="Slot area", description="All slots together.")
    air_tube_height: Depth | None = Field(
        default=None, title="Air tube mouth", description="Over the bed's floor; none if no tube."
    )
    guard_diameter: Size | None = Field(
        default=None, title="Media guard diameter", description="Keeps media off the bell."
    )
    trap: bool = TRAP

    @property
    def pipe(self) -> Bore:
        """Its standpipe."""
        return self.standpipe_bore

    @property
    def widest(self) -> Bore:
        """Its bell."""
        return self.bell_bore

    @property
    def spills_from(self) -> float:
        """The standpipe's rim [m]."""
        return self.rim_height

    @property
    def intake_height(self) -> float:
        """The top of the slots, or the mouth of the air tube if that lies higher [m]."""
        return max(self.slot_height, self.air_tube_height or 0.0)

    @property
    def has_air_tube(self) -> bool:
        """Whether it has one."""
        return self.air_tube_height is not None

    @property
    def break_share(self) -> Banded:
        """An air tube breaks it at once, slots at its foot less surely [-]."""
        return BREAK_SHARE_AIR_TUBE if self.has_air_tube else BREAK_SHARE_PLAIN

    @property
    def clear_area(self) -> float:
        """Within the media guard [m²]."""
        return area_of(self.guard_diameter) if self.guard_diameter else 0.0

    @model_validator(mode="after")
    def _heights_rise(self) -> Self:
        if self.intake_height >= self.rim_height:
            raise ValueError(
                "the slots and the air tube's mouth must lie below the standpipe's rim"
            )
        if self.bell_bore.inside <= self.standpipe_bore.outside:
            raise ValueError("the bell must be wider than the standpipe it covers")
        if self.guard_diameter is not None and self.guard_diameter <= self.bell_bore.inside:
            raise ValueError("the media guard must be wider than the bell")
        return self


MODEL = BellSiphon
