"""Ways out of a vessel that set a level: siphons, standpipes, holes and lifts."""

from typing import Annotated, Any, Literal, Self

from pydantic import Discriminator, Field, Tag, model_validator

from bathys.plan.base import Part
from bathys.plan.pipes import Bore
from bathys.plan.quantities import Count, Depth, Height, Identifier, Name, OpenArea, Size

__all__ = [
    "BellSiphon", "DrilledHoles", "LoopSiphon", "Outlet", "Siphon", "SolidsLift", "Standpipe",
]  # fmt: skip


TRAP: Any = Field(
    default=False,
    title="Trap at the tail's end",
    description="An elbow turned up, or a trap, that helps it to start.",
)


def _siphon_kind(value: Any) -> str:
    """Siphons that name no kind are bells."""
    found = value.get("kind", "bell") if isinstance(value, dict) else getattr(value, "kind", "")
    return str(found)


class BellSiphon(Part):
    """A bell siphon in a bed. Its tail is the run that starts at ``<id>.tail``."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["bell"] = "bell"
    stands_in: Identifier
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
    def intake_height(self) -> float:
        """Level over the bed's floor at which air gets in [m]."""
        return max(self.slot_height, self.air_tube_height or 0.0)

    @property
    def pipe_bore(self) -> float:
        """Bore that has to run full [m]."""
        return self.standpipe_bore.inside

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


class LoopSiphon(Part):
    """A tube from a low bulkhead up over a crest outside the bed. Its tail is the run that starts
    at ``<id>.tail``, beyond the crest."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["loop"] = "loop"
    stands_in: Identifier
    bore: Bore = Field(title="Tube bore")
    bulkhead_height: Depth = Field(
        title="Bulkhead height", description="Centre of the hole over the bed's floor."
    )
    crest_height: Depth = Field(
        title="Loop height", description="Invert at the top of the loop, over the floor."
    )
    trap: bool = TRAP

    @property
    def intake_height(self) -> float:
        """Level over the bed's floor at which air gets in: the crown of the hole [m]."""
        return self.bulkhead_height + 0.5 * self.bore.inside

    @property
    def rim_height(self) -> float:
        """Level over the bed's floor at which it begins to spill [m]."""
        return self.crest_height

    @property
    def pipe_bore(self) -> float:
        """Bore that has to run full [m]."""
        return self.bore.inside

    @model_validator(mode="after")
    def _heights_rise(self) -> Self:
        if self.bulkhead_height + self.bore.inside >= self.crest_height:
            raise ValueError("the bulkhead must lie well below the top of the loop")
        return self


Siphon = Annotated[
    Annotated[BellSiphon, Tag("bell")] | Annotated[LoopSiphon, Tag("loop")],
    Discriminator(_siphon_kind),
]
"""A siphon; one that names no kind is a bell."""


class Standpipe(Part):
    """An open upright pipe that sets a level; its drain is the run from ``<id>.out``."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["standpipe"] = "standpipe"
    stands_in: Identifier
    bore: Bore = Field(title="Standpipe bore")
    rim_height: Depth = Field(title="Standpipe height", description="Rim over the floor.")
    holes: Annotated[int, Field(ge=0, le=1000, json_schema_extra={"quantity": "count"})] = Field(
        default=0, title="Small holes", description="Drilled low, to drain the bed slowly."
    )
    hole_height: Height = Field(default=0.02, title="Height of the holes")
    hole_diameter: Annotated[Height, Field(ge=0.001, le=0.1)] = Field(
        default=0.006, title="Diameter of the holes"
    )

    @property
    def crest_height(self) -> float:
        """Level over the floor below which it carries nothing [m]."""
        return min(self.hole_height, self.rim_height) if self.holes else self.rim_height


class DrilledHoles(Part):
    """A row of holes through a wall or a screen, feeding the run from ``<id>.out``."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["holes"] = "holes"
    stands_in: Identifier
    height: Height = Field(title="Height", description="Centre of the holes over the floor.")
    diameter: Annotated[Height, Field(ge=0.001, le=0.5)] = Field(title="Hole diameter")
    count: Count = Field(title="Holes")

    @property
    def crest_height(self) -> float:
        """Level over the floor below which it carries nothing [m]."""
        return self.height


class SolidsLift(Part):
    """An overflow that draws from the bottom: up a pipe, over a crest, into ``<id>.out``."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["lift"] = "lift"
    stands_in: Identifier
    bore: Bore = Field(title="Bore of the lift pipe")
    intake_height: Height = Field(title="Intake height", description="Over the floor.")
    crest_height: Depth = Field(
        title="Crest height", description="Invert of the pipe that leads away, over the floor."
    )
    vented: bool = Field(
        default=True, title="Open tee", description="An open top over the crest lets air in."
    )

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.intake_height >= self.crest_height:
            raise ValueError("the intake of a lift must lie below its crest")
        return self


Outlet = Annotated[Standpipe | DrilledHoles | SolidsLift, Field(discriminator="kind")]
