"""The plan document: what the builder drew. Frozen, versioned, unknown fields refused."""

from functools import cached_property
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from bathys.parts.bores import bore_of, standards
from bathys.plan.checks import (
    check_fittings,
    check_links,
    check_switches,
    check_unique_ids,
    check_vessel_heights,
)
from bathys.plan.quantities import (
    Angle,
    Count,
    Depth,
    Dial,
    Elevation,
    Flow,
    Height,
    Identifier,
    Length,
    Mass,
    Name,
    OpenArea,
    Opening,
    Power,
    Price,
    Ratio,
    Share,
    Size,
    Slope,
    Temperature,
    Time,
    Wear,
)  # fmt: skip

__all__ = [
    "GROUPS", "BallValve", "BellSiphon", "Bore", "Box", "Brief", "Cylinder", "DrilledHoles",
    "Fitting", "FloatSwitch", "GateValve", "InsideDiameter", "Junction", "LabelPump", "Media",
    "Outlet", "Plan", "PointsPump", "Port", "Pump", "Run", "Shape", "Site", "SolidsLift",
    "SprayBar", "StandardBore", "Standpipe", "Timer", "Valve", "Vessel",
]  # fmt: skip


GROUPS = ("vessels", "pumps", "runs", "siphons", "outlets", "junctions")
"""The plan's lists of parts."""


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
    mouth: Literal["flush", "inward", "rounded"] = Field(
        default="flush", title="Mouth", description="How a pipe that begins here meets the wall."
    )


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
    power: Annotated[float, Field(gt=0.0, le=1e5, allow_inf_nan=False)] | None = None


class PointsPump(_Part):
    """A pump's curve as points of flow [m³/s] and head [m]; heads never rise with flow."""

    kind: Literal["points"] = "points"
    points: Annotated[tuple[CurvePoint, ...], Field(min_length=2, max_length=50)]

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


class Timer(_Part):
    """Runs and rests by the clock."""

    kind: Literal["timer"] = "timer"
    on: Time = Field(title="Runs for")
    off: Time = Field(title="Rests for")


class FloatSwitch(_Part):
    """Runs when the water is high and stops when it is low."""

    kind: Literal["float"] = "float"
    on_height: Height = Field(title="Starts at", description="Level over the vessel's floor.")
    off_height: Height = Field(title="Stops at", description="Level over the vessel's floor.")


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
    dial: Dial = Field(default=1.0, title="Dial", description="Share of full speed.")
    wear: Wear = Field(
        default=1.0, title="Wear", description="What is left of a new pump's flow: 100 % new."
    )
    switch: Annotated[Timer | FloatSwitch, Field(discriminator="kind")] | None = Field(
        default=None, title="Switched by"
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
        "elbow_90", "elbow_90_long", "elbow_45", "tee_run", "tee_branch", "union", "barb",
        "reducer", "expander", "swing_check", "spring_check", "foot_valve",
    ]  # fmt: skip
    count: Count = Field(title="Pieces")
    other_bore: Bore | None = Field(
        default=None, title="Other bore", description="Of a reducer or an expander."
    )


class BallValve(_Part):
    """A throttling ball valve."""

    kind: Literal["ball"] = "ball"
    angle: Angle = Field(
        default=0.0, title="Valve handle", description="Turned from open: 0° open, 90° shut."
    )


class GateValve(_Part):
    """A gate valve."""

    kind: Literal["gate"] = "gate"
    opening: Opening = Field(
        default=1.0, title="Gate open", description="Share of the bore: 100 % open, 0 shut."
    )


Valve = Annotated[BallValve | GateValve, Field(discriminator="kind")]


class SprayBar(_Part):
    """A bank of holes at the end of a run, instead of an open end."""

    kind: Literal["spray"] = "spray"
    holes: Count = Field(title="Holes")
    diameter: Annotated[Height, Field(ge=0.0005, le=0.1)] = Field(title="Hole diameter")


class Run(_Part):
    """One line of pipe or hose of one bore from a port to a vessel's port or a junction.

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
    valve: Valve | None = Field(default=None, title="Valve")
    spray: SprayBar | None = Field(
        default=None, title="Ends in", description="An open end, or a spray bar of drilled holes."
    )
    slope: Slope | None = Field(
        default=None,
        title="Fall of the level part",
        description="Drains only; none takes what the heights allow, 2 % after an upright drop.",
    )
    wanted_flow: Flow | None = Field(
        default=None, title="Wanted flow", description="Where it ends; none if any will do."
    )
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


class Standpipe(_Part):
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


class DrilledHoles(_Part):
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


class SolidsLift(_Part):
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


class Junction(_Part):
    """Where runs meet. A run begins or ends at it by naming its id."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["tee", "wye", "plain"] = Field(default="tee", title="Kind")
    height: Elevation = Field(title="Height", description="Centre of the bore over the datum.")
    straight: Identifier | None = Field(
        default=None, title="Straight on", description="The run that goes straight through."
    )
    along: Elevation | None = Field(
        default=None, title="Place from the left", description="Where the side view draws it."
    )


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
    schools: tuple[Literal["tank", "frugal", "whole_system", "headroom"], ...] = Field(
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
    outlets: Annotated[tuple[Outlet, ...], Field(max_length=400)] = ()
    junctions: Annotated[tuple[Junction, ...], Field(max_length=1000)] = ()

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        check_unique_ids(self)
        check_links(self)
        check_vessel_heights(self)
        check_switches(self)
        check_fittings(self)
        return self

    def vessel(self, id_: str) -> Vessel:
        """The vessel with this id.

        Raises
        ------
        KeyError
            If there is none
        """
        part = self.part(id_)
        if not isinstance(part, Vessel):
            raise KeyError(id_)
        return part

    def run_from(self, port: str) -> Run | None:
        """The run that starts at a port, if there is one."""
        return next(iter(self.runs_from(port)), None)

    def runs_from(self, place: str) -> tuple[Run, ...]:
        """The runs that start at a port or a junction."""
        return self._ways[0].get(place, ())

    def runs_to(self, place: str) -> tuple[Run, ...]:
        """The runs that end at a port or a junction."""
        return self._ways[1].get(place, ())

    @cached_property
    def _ways(self) -> tuple[dict[str, tuple[Run, ...]], dict[str, tuple[Run, ...]]]:
        starts: dict[str, tuple[Run, ...]] = {}
        ends: dict[str, tuple[Run, ...]] = {}
        for run in self.runs:
            starts[run.start] = (*starts.get(run.start, ()), run)
            ends[run.end] = (*ends.get(run.end, ()), run)
        return starts, ends

    def part(self, id_: str) -> Any:
        """The part with this id, whatever it is; none if there is none."""
        return self._parts.get(id_, (None, ""))[0]

    def group_of(self, id_: str) -> str:
        """The list a part stands in, such as ``runs``; empty if there is no such part."""
        return self._parts.get(id_, (None, ""))[1]

    @cached_property
    def _parts(self) -> dict[str, tuple[Any, str]]:
        return {p.id: (p, group) for group in GROUPS for p in getattr(self, group)}

    def port(self, name: str) -> Port | None:
        """A vessel's port by its full name, such as ``T1.return``; none for any other place."""
        return self._places.get(name, (None, None))[0]

    def elevation(self, place: str) -> float | None:
        """Height over the datum [m] of a vessel's port or a junction; none for a pump's end, a
        siphon's or an outlet's."""
        return self._places.get(place, (None, None))[1]

    def owner_of(self, place: str) -> str | None:
        """The vessel a port, an outlet, a siphon or a pump belongs to; none for a junction."""
        return self._owners.get(place.partition(".")[0])

    @cached_property
    def _owners(self) -> dict[str, str]:
        standing = (*self.pumps, *self.siphons, *self.outlets)
        return {v.id: v.id for v in self.vessels} | {p.id: p.stands_in for p in standing}

    @cached_property
    def _places(self) -> dict[str, tuple[Port | None, float]]:
        ports = {
            f"{v.id}.{p.name}": (p, float(v.floor_height) + p.height)
            for v in self.vessels
            for p in v.ports
        }
        return {**ports, **{j.id: (None, float(j.height)) for j in self.junctions}}
