"""Vessels, what fills them and where runs join them."""

from dataclasses import replace
from typing import TYPE_CHECKING, Annotated, Literal, TypeAlias

from pydantic import Field

from bathys.kinds import union_of
from bathys.parts.crops import CROPS
from bathys.parts.crops import Crop as Kinds
from bathys.parts.fittings import MOUTHS
from bathys.parts.jobs import JOBS, Job
from bathys.parts.media import CARRIERS, MEDIA
from bathys.plan.base import Headed, Part
from bathys.plan.ground import Spot
from bathys.plan.own_limits import CropLimits, VesselLimits
from bathys.plan.quantities import (
    Count,
    Depth,
    Elevation,
    Height,
    Identifier,
    Opening,
    Share,
    Size,
    Surface,
    Volume,
)
from bathys.plan.settler import Settler
from bathys.plan.shell import Shell

__all__ = ["Baffles", "Carriers", "Crop", "FalseCone", "Media", "Port", "Vessel"]

if TYPE_CHECKING:
    AnyShell: TypeAlias = Shell
    AnyJob: TypeAlias = str
    AnyMedium: TypeAlias = str
    AnyMouth: TypeAlias = str
    AnySettler: TypeAlias = Settler
    AnyCarrier: TypeAlias = str
    AnyWall: TypeAlias = str
    AnyCover: TypeAlias = str
    AnyCrop: TypeAlias = str
else:
    AnyMedium, AnyMouth = Literal[tuple(MEDIA)], Literal[tuple(MOUTHS)]
    AnyWall = Literal["bare", "insulated", "dug_in"]
    AnyCover = Literal["uncovered", "net", "screen", "lid"]
    AnyCarrier, AnyCrop = Literal[tuple(CARRIERS)], Literal[tuple(CROPS)]
    AnyShell, AnyJob = union_of("shells"), Literal[tuple(JOBS)]
    AnySettler = union_of("settlers")


class Media(Part):
    """Media that fill a bed between two heights."""

    kind: AnyMedium = Field(title="Medium")
    bottom: Height = Field(default=0.0, title="Media from", description="Over the floor.")
    top: Depth = Field(title="Media up to", description="Over the floor.")
    void_fraction: Share = Field(
        title="Void fraction", description="Share of the media that water can fill."
    )
    smallest_grain: Annotated[Height, Field(ge=0.0005)] | None = Field(
        default=None,
        title="Smallest grain",
        description="Holes of guards and screens must be smaller; none for the usual grade.",
    )


class Carriers(Part):
    """Something in a vessel for bacteria to live on, besides media that plants stand in."""

    kind: AnyCarrier = Field(title="Carriers")
    volume: Annotated[Volume, Field(gt=0.0)] = Field(
        title="Carriers", description="As a heap, dry."
    )
    surface: Annotated[float, Field(ge=10.0, le=5000.0)] | None = Field(
        default=None,
        title="Surface of a cubic metre",
        description="In m²; none for what such carriers usually have.",
        json_schema_extra={"quantity": "ratio"},
    )


class Crop(Part):
    """What grows in a bed or on rafts."""

    kind: AnyCrop = Field(title="Crop")
    planted: Opening = Field(
        default=1.0, title="Planted", description="Share of the bed that is planted."
    )
    growth: Opening = Field(
        default=0.5,
        title="Growth",
        description="Of what it takes up at full growth: a rota of all ages averages half.",
    )
    own: CropLimits = CropLimits()

    @property
    def grows(self) -> Kinds:
        """What such a crop takes up and wants, but for the builder's own figures."""
        usual = CROPS[self.kind]
        own = {k: v for k, v in self.own.model_dump().items() if v is not None}
        return replace(usual, **own) if own else usual


class Port(Part):
    """A named place on a vessel where a run begins or ends."""

    name: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,23}$")]
    height: Height = Field(title="Height", description="Centre of the mouth over the floor.")
    mouth: AnyMouth = Field(
        default="flush", title="Mouth", description="How a pipe that begins here meets the wall."
    )


class FalseCone(Part):
    """A cone set into a vessel with a flat floor, so that solids slide to its middle."""

    kind: Literal["cone"] = "cone"
    cone_height: Size = Field(title="Height of the cone")
    foot_diameter: Annotated[Height, Field(ge=0.01)] = Field(
        default=0.08, title="Diameter of its foot"
    )
    flooded: bool = Field(
        default=True,
        title="Flooded behind",
        description="Holes let water behind it. Dry behind, it carries the water over it.",
    )


class Baffles(Part):
    """Plates across a vessel that water passes under."""

    kind: Literal["plates"] = "plates"
    count: Count = Field(default=1, title="Plates")
    gap: Annotated[Height, Field(ge=0.005)] = Field(title="Gap under a plate")
    width: Size = Field(title="Width of a plate", description="Across the vessel.")


class Vessel(Headed):
    """A shell that holds water."""

    kind: Literal["vessel"] = "vessel"
    job: AnyJob
    shape: AnyShell
    floor_height: Elevation = Field(
        title="Floor height", description="Inside floor over the datum; negative if dug in."
    )
    freeboard: Height = Field(
        default=0.05, title="Freeboard", description="Dry wall to keep below the rim."
    )
    water_depth: Depth | None = Field(
        default=None,
        title="Filled to",
        description="Depth with the pump off and the beds drained; none where outlets decide.",
    )
    media: Media | None = None
    displaced: Volume = Field(
        default=0.0, title="Displaced", description="Water that fittings and racks take up."
    )
    covered: Opening = Field(
        default=0.0, title="Covered", description="Share of it that no rain and no air gets to."
    )
    cover: AnyCover = Field(
        default="uncovered",
        title="Cover",
        description="What keeps fish in, and birds and leaves out.",
    )
    within: Identifier | None = Field(
        default=None, title="Stands within", description="Another vessel; none for one on its own."
    )
    false_cone: FalseCone | None = Field(default=None, title="Cone set in")
    baffles: Baffles | None = Field(default=None, title="Baffles")
    settler: AnySettler | None = Field(default=None, title="Settler")
    carriers: Carriers | None = Field(default=None, title="Carriers in it")
    crop: Crop | None = Field(default=None, title="Crop")
    walls: AnyWall = Field(default="bare", title="Walls", description="What keeps it warm.")
    catch_area: Surface = Field(
        default=0.0,
        title="Roof that drains into it",
        description="Catches rain besides its own rim: a rain drum under a gutter.",
    )
    stage: Annotated[int, Field(ge=1, le=9, json_schema_extra={"quantity": "count"})] = Field(
        default=1,
        title="Built in stage",
        description="1 now, 2 or more later; the bench Stages compares them.",
    )
    ports: Annotated[tuple[Port, ...], Field(max_length=120)] = ()
    own: VesselLimits = VesselLimits()
    spot: Spot | None = None
    along: Elevation | None = Field(
        default=None, title="Place from the left", description="Where the side view draws it."
    )

    @property
    def catches_rain(self) -> float:
        """Area whose rain comes into it [m²]."""
        return self.shape.footprint * (1.0 - self.covered) + self.catch_area

    @property
    def use(self) -> Job:
        """What follows from what it is for."""
        return JOBS[self.job]
