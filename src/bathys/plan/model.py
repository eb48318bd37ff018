"""The plan document: what the builder drew. Frozen, versioned, unknown fields refused."""

from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from bathys.parts.bores import bore_of, standards
from bathys.plan.checks import check_links, check_unique_ids, check_vessel_heights
from bathys.plan.quantities import (
    Angle,
    Count,
    Depth,
    Elevation,
    Flow,
    Height,
    Identifier,
    Length,
    Mass,
    Name,
    OpenArea,
    Power,
    Price,
    Ratio,
    Share,
    Size,
    Temperature,
)  # fmt: skip

__all__ = [
    "BallValve", "BellSiphon", "Bore", "Box", "Brief", "Cylinder", "Fitting", "InsideDiameter",
    "LabelPump", "Media", "Plan", "PointsPump", "Port", "Pump", "Run", "Shape", "Site",
    "StandardBore", "Vessel",
]  # fmt: skip


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, populate_by_name=True)


class Box(_Part):
    """An upright box."""

    kind: Literal["box"] = "box"
    length: Size = Field(title="Length inside")
    width: Size = Field(title="Width inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")


class Cylinder(_Part):
    """An upright cylinder."""

    kind: Literal["cylinder"] = "cylinder"
    diameter: Size = Field(title="Diameter inside")
    height: Size = Field(title="Height inside", description="Floor to rim.")


Shape = Annotated[Box | Cylinder, Field(discriminator="kind")]


class Media(_Part):
    """Media that fill a bed between two heights."""

    kind: Literal["gravel", "expanded_clay", "lava", "expanded_slate"] = Field(title="Medium")
    bottom: Height = Field(default=0.0, title="Media from", description="Over the floor.")
    top: Depth = Field(title="Media up to", description="Over the floor.")
    void_fraction: Share = Field(
        title="Void fraction", description="Share of the media that water can fill."
    )


class Port(_Part):
    """A named place on a vessel where a run begins or ends."""

    name: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,23}$")]
    height: Height = Field(title="Height", description="Centre of the mouth over the floor.")


class Vessel(_Part):
    """A shell that holds water."""

    id: Identifier
    name: Name = Field(title="Name")
    job: Literal["fish_tank", "grow_bed", "raft", "settler", "biofilter", "sump"]
    shape: Shape
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
    ports: tuple[Port, ...] = ()
    along: Elevation | None = Field(
        default=None, title="Place from the left", description="Where the side view draws it."
    )


class LabelPump(_Part):
    """What a pump's label says."""

    kind: Literal["label"] = "label"
    max_flow: Flow = Field(title="Label flow", description="At no lift.")
    max_head: Depth = Field(title="Label lift", description="At no flow.")
    exponent: Annotated[float, Field(ge=1.0, le=4.0, allow_inf_nan=False)] = Field(
        default=2.0, title="Curve exponent", json_schema_extra={"quantity": "ratio"}
    )


class CurvePoint(_Part):
    """One point of a pump's curve."""

    flow: Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
    head: Annotated[float, Field(ge=0.0, le=100.0, allow_inf_nan=False)]


class PointsPump(_Part):
    """A pump's curve as points of flow [m³/s] and head [m]; heads never rise with flow."""

    kind: Literal["points"] = "points"
    points: Annotated[tuple[CurvePoint, ...], Field(min_length=3, max_length=50)]

    @model_validator(mode="after")
    def _falls(self) -> Self:
        pairs = zip(self.points, self.points[1:], strict=False)
        for number, (one, two) in enumerate(pairs, start=2):
            if two.flow <= one.flow:
                raise ValueError(f"point {number} must have more flow than the point before it")
            if two.head > one.head:
                raise ValueError(
                    f"point {number} has more head than the point before it; a pump's head "
                    "never rises with flow"
                )
        if self.points[0].head <= self.points[-1].head:
            raise ValueError("the head must fall somewhere along the curve")
        return self


class Pump(_Part):
    """A pump standing in a vessel."""

    id: Identifier
    name: Name = Field(title="Name")
    stands_in: Identifier
    inlet_height: Height = Field(
        title="Inlet height", description="Over the vessel's floor; it cannot pump below this."
    )
    curve: Annotated[LabelPump | PointsPump, Field(discriminator="kind")]
    power: Power = Field(title="Power", description="Watts drawn, from the label or a meter.")
    strainer_loss: Ratio = Field(
        default=0.0,
        title="Strainer loss K",
        description="On the run's bore: 0 clean, 5 and more when clogged.",
    )


class StandardBore(_Part):
    """A bore by standard and nominal size."""

    kind: Literal["standard"] = "standard"
    standard: str
    nominal: str

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.standard not in standards():
            raise ValueError(f"no table for “{self.standard}”; there is {', '.join(standards())}")
        try:
            bore_of(self.standard, self.nominal)
        except KeyError:
            raise ValueError(f"{self.standard} has no size “{self.nominal}”") from None
        return self

    @property
    def inside(self) -> float:
        """Inside diameter [m]."""
        return bore_of(self.standard, self.nominal)


class InsideDiameter(_Part):
    """A bore by its inside diameter, as hose is sold."""

    kind: Literal["inside"] = "inside"
    diameter: Annotated[float, Field(gt=0.001, le=2.0, allow_inf_nan=False)]

    @property
    def inside(self) -> float:
        """Inside diameter [m]."""
        return self.diameter


Bore = Annotated[StandardBore | InsideDiameter, Field(discriminator="kind")]


class Fitting(_Part):
    """Some fittings of one kind on a run."""

    kind: Literal[
        "elbow_90", "elbow_90_long", "elbow_45", "tee_run", "tee_branch", "union",
        "swing_check", "foot_valve",
    ]  # fmt: skip
    count: Count = Field(title="Pieces")


class BallValve(_Part):
    """A throttling ball valve."""

    kind: Literal["ball"] = "ball"
    angle: Angle = Field(
        default=0.0, title="Valve handle", description="Turned from open: 0° open, 90° shut."
    )


class Run(_Part):
    """One line of pipe or hose of one bore between two ports.

    Its length is the length along the level plus the difference in height of its ends, so that
    raising a vessel lengthens its pipes by itself.
    """

    id: Identifier
    name: Name = Field(title="Name")
    start: str = Field(alias="from")
    end: str = Field(alias="to")
    bore: Bore = Field(title="Bore")
    level_length: Length = Field(
        title="Length along the level", description="Rises and drops are added by themselves."
    )
    fittings: tuple[Fitting, ...] = ()
    valve: BallValve | None = Field(default=None, title="Valve")
    fouling: Literal["new", "season", "neglected"] = Field(default="new", title="Wall film")


class BellSiphon(_Part):
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

    @property
    def intake_height(self) -> float:
        """Level over the bed's floor at which air gets in [m]."""
        return max(self.slot_height, self.air_tube_height or 0.0)

    @model_validator(mode="after")
    def _heights_rise(self) -> Self:
        if self.intake_height >= self.rim_height:
            raise ValueError(
                "the slots and the air tube's mouth must lie below the standpipe's rim"
            )
        if self.bell_bore.inside <= self.standpipe_bore.inside:
            raise ValueError("the bell must be wider than the standpipe it covers")
        if self.guard_diameter is not None and self.guard_diameter <= self.bell_bore.inside:
            raise ValueError("the media guard must be wider than the bell")
        return self


class Site(_Part):
    """Where the layout stands."""

    water_temperature: Temperature = Field(default=20.0, title="Water temperature")
    tariff: Price = Field(default=0.30, title="Electricity price", description="For one kWh.")
    currency: Annotated[str, Field(min_length=1, max_length=6)] = Field(
        default="€", title="Currency"
    )
    units: Literal["metric", "us"] = Field(default="metric", title="Units")


class Brief(_Part):
    """What the builder wants of the layout."""

    purpose: Annotated[str, Field(max_length=500)] = Field(default="", title="Purpose")
    fish_mass: Mass = Field(default=0.0, title="Fish at harvest", description="All together.")
    schools: tuple[Literal["tank", "frugal", "whole_system"], ...] = Field(
        default=("tank",), title="Turnover schools"
    )


class Plan(_Part):
    """A layout of vessels and the runs between them."""

    format: Literal["bathys-plan"] = "bathys-plan"
    version: Literal[1] = 1
    name: Name = Field(title="Plan name")
    datum: Name = Field(default="ground at the tank", title="Heights are over")
    brief: Brief = Brief()
    site: Site = Site()
    vessels: Annotated[tuple[Vessel, ...], Field(min_length=1, max_length=200)]
    pumps: Annotated[tuple[Pump, ...], Field(max_length=50)] = ()
    runs: Annotated[tuple[Run, ...], Field(max_length=1000)] = ()
    siphons: Annotated[tuple[BellSiphon, ...], Field(max_length=200)] = ()

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        check_unique_ids(self)
        check_links(self)
        check_vessel_heights(self)
        return self

    def vessel(self, id_: str) -> Vessel:
        """The vessel with this id."""
        return next(v for v in self.vessels if v.id == id_)

    def run_from(self, port: str) -> Run | None:
        """The run that starts at a port, if there is one."""
        return next((r for r in self.runs if r.start == port), None)

    def elevation(self, port: str) -> float | None:
        """Height of a vessel's port over the datum [m]; none for a pump's or a siphon's."""
        owner, _, name = port.partition(".")
        for vessel in self.vessels:
            if vessel.id == owner:
                height = next(p.height for p in vessel.ports if p.name == name)
                return vessel.floor_height + height
        return None
