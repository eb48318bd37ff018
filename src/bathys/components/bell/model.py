"""A bell over a standpipe."""

from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from bathys.physics import area_of
from bathys.physics.siphon import (
    AIR_SHARE,
    BREAK_SHARE_AIR_TUBE,
    BREAK_SHARE_PLAIN,
    Banded,
)
from bathys.plan.bore import Bore
from bathys.plan.openings import AirTube, Drill, HoleRows, area_of_rows, top_of_rows
from bathys.plan.quantities import (
    Angle,
    BreakShare,
    CoefficientDoubt,
    Depth,
    Height,
    OpenArea,
    Size,
    StartFroude,
)
from bathys.plan.way_out import (
    BREAKS_AT,
    BREAKS_AT_DOUBT,
    END_ELBOW,
    STARTS_AT,
    STARTS_AT_DOUBT,
    Siphon,
    as_measured,
)

__all__ = ["MODEL", "USUAL_GAP", "BellSiphon"]

USUAL_GAP = 0.025
"""From a standpipe's rim to its bell's cap [m] (common practice: 20 to 30 mm)."""

_BORE_BEFORE = 0.012  # of an air tube in an older file, which did not say it [m]


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
    slot_area: OpenArea | None = Field(
        default=None,
        title="Slot area",
        description="All slots; none if holes are drilled instead.",
    )
    hole_rows: HoleRows = Field(
        default=(),
        title="Drilled holes",
        description="At the bell's foot, a row a line: number × drill at their height.",
    )
    crown_gap: Depth = Field(
        default=USUAL_GAP,
        title="Gap under the cap",
        description="From the standpipe's rim up to the bell's cap: 20 to 30 mm (0.8 to 1.2 in).",
    )
    air_tubes: Annotated[tuple[AirTube, ...], Field(max_length=6)] = Field(
        default=(),
        title="Air tubes",
        description="From the crown down, one a line: bore at the height of the mouth.",
    )
    cup_depth: Height = Field(
        default=0.0,
        title="Cup at the tube's foot",
        description="How far its rim stands over the tube's mouth; 0 for no cup.",
    )
    hold: Literal["fixed", "heavy", "light"] = Field(
        default="fixed",
        title="The bell",
        description="A loose one comes out for cleaning; one that floats may lift off its slots.",
    )
    guard_diameter: Size | None = Field(
        default=None, title="Media guard diameter", description="Keeps media off the bell."
    )
    guard_opening: Drill | None = Field(
        default=None,
        title="Guard's openings",
        description="Diameter of its holes or width of its slots: smaller than the smallest grain.",
    )
    guard_cut: Literal["holes", "slots"] = Field(
        default="holes",
        title="Guard is cut with",
        description="A slotted guard cuts roots when it is twisted.",
    )
    guard_area: OpenArea | None = Field(
        default=None, title="Guard's open area", description="All its openings under water."
    )
    end_elbow: Angle | None = END_ELBOW
    starts_at: StartFroude | None = STARTS_AT
    starts_at_doubt: CoefficientDoubt | None = STARTS_AT_DOUBT
    breaks_at: BreakShare | None = BREAKS_AT
    breaks_at_doubt: CoefficientDoubt | None = BREAKS_AT_DOUBT

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
    def foot_top(self) -> float:
        """Where the openings at its foot end [m]."""
        slots = self.slot_height if self.slot_area is not None else 0.0
        return max(slots, top_of_rows(self.hole_rows))

    @property
    def foot_area(self) -> float:
        """Of all openings at its foot [m²]."""
        return (self.slot_area or 0.0) + area_of_rows(self.hole_rows)

    @property
    def air_height(self) -> float | None:
        """Level at which enough air comes in by its tubes to break it; none if they are too
        narrow, or none [m]."""
        wanted, area = AIR_SHARE * area_of(self.pipe_bore), 0.0
        for tube in sorted(self.air_tubes, key=lambda t: t.mouth_height, reverse=True):
            area += area_of(tube.bore)
            if area >= wanted:
                return tube.mouth_height + self.cup_depth
        return None

    @property
    def intake_height(self) -> float:
        """The top of the openings at its foot, or the mouth of its air tubes, or the rim of the
        cup about it, if that lies higher [m]."""
        return max(self.foot_top, self.air_height or 0.0)

    @property
    def has_air_tube(self) -> bool:
        """Whether air tubes break it."""
        return self.air_height is not None

    @property
    def break_share(self) -> Banded:
        """As measured; else an air tube breaks it at once, openings at its foot less surely [-]."""
        usual = BREAK_SHARE_AIR_TUBE if self.has_air_tube else BREAK_SHARE_PLAIN
        return as_measured(self.breaks_at, self.breaks_at_doubt, usual)

    @property
    def cap_height(self) -> float:
        """Inside of the bell's cap, over the bed's floor [m]."""
        return self.rim_height + self.crown_gap

    @property
    def clear_area(self) -> float:
        """Within the media guard [m²]."""
        return area_of(self.guard_diameter) if self.guard_diameter else 0.0

    @classmethod
    def of_version(cls, data: dict[str, Any], version: int) -> dict[str, Any]:
        """Up to version 2 a bell had one air tube, of which only the mouth was known, or none."""
        data = super().of_version(data, version)
        mouth = data.pop("air_tube_height", None)
        if mouth is not None:
            data["air_tubes"] = [{"bore": _BORE_BEFORE, "mouth_height": mouth}]
        return data

    @model_validator(mode="after")
    def _heights_rise(self) -> Self:
        highest = max((t.mouth_height for t in self.air_tubes), default=0.0)
        if max(self.intake_height, highest) >= self.rim_height:
            raise ValueError(
                "the openings at its foot and the air tubes must end below the standpipe's rim"
            )
        if not self.foot_area:
            raise ValueError("the bell needs slots or drilled holes at its foot")
        if self.cup_depth and not self.air_tubes:
            raise ValueError("a cup stands about the foot of an air tube, and there is none")
        if self.bell_bore.inside <= self.standpipe_bore.outside:
            raise ValueError("the bell must be wider than the standpipe it covers")
        if self.guard_diameter is not None and self.guard_diameter <= self.bell_bore.inside:
            raise ValueError("the media guard must be wider than the bell")
        return self


MODEL = BellSiphon
