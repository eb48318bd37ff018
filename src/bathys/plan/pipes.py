"""Runs of pipe and hose, what stands in them and where they meet."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from bathys.parts.bores import bore_of, pipe_sizes, standards
from bathys.plan.base import Part
from bathys.plan.places import part_id
from bathys.plan.quantities import (
    Angle,
    Count,
    Elevation,
    Flow,
    Height,
    Identifier,
    Length,
    Name,
    Opening,
    Slope,
)

__all__ = [
    "BallValve",
    "Bore",
    "Fitting",
    "GateValve",
    "InsideDiameter",
    "Junction",
    "Run",
    "SprayBar",
    "StandardBore",
    "Valve",
]

_HOSE_WALL = 0.002  # wall of a pipe known only by its bore [m] (assumed)


class StandardBore(Part):
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

    @property
    def outside(self) -> float:
        """Outside diameter [m]."""
        sizes = pipe_sizes(self.standard)
        return next(s.outside_diameter for s in sizes if s.nominal == self.nominal)


class InsideDiameter(Part):
    """A bore by its inside diameter, as hose is sold."""

    kind: Literal["inside"] = "inside"
    diameter: Annotated[float, Field(gt=0.001, le=2.0, allow_inf_nan=False)]

    @property
    def inside(self) -> float:
        """Inside diameter [m]."""
        return self.diameter

    @property
    def outside(self) -> float:
        """Outside diameter, with a wall as hose has [m]."""
        return self.diameter + 2.0 * _HOSE_WALL


Bore = Annotated[StandardBore | InsideDiameter, Field(discriminator="kind")]


class Fitting(Part):
    """Some fittings of one kind on a run."""

    kind: Literal[
        "elbow_90", "elbow_90_long", "elbow_45", "tee_run", "tee_branch", "union", "barb",
        "reducer", "expander", "swing_check", "spring_check", "foot_valve",
    ]  # fmt: skip
    count: Count = Field(title="Pieces")
    other_bore: Bore | None = Field(
        default=None, title="Other bore", description="Of a reducer or an expander."
    )


class BallValve(Part):
    """A throttling ball valve."""

    kind: Literal["ball"] = "ball"
    angle: Angle = Field(
        default=0.0, title="Valve handle", description="Turned from open: 0° open, 90° shut."
    )


class GateValve(Part):
    """A gate valve."""

    kind: Literal["gate"] = "gate"
    opening: Opening = Field(
        default=1.0, title="Gate open", description="Share of the bore: 100 % open, 0 shut."
    )


Valve = Annotated[BallValve | GateValve, Field(discriminator="kind")]


class SprayBar(Part):
    """A bank of holes at the end of a run, instead of an open end."""

    kind: Literal["spray"] = "spray"
    holes: Count = Field(title="Holes")
    diameter: Annotated[Height, Field(ge=0.0005, le=0.1)] = Field(title="Hole diameter")


class Run(Part):
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
    fittings: Annotated[tuple[Fitting, ...], Field(max_length=60)] = ()
    valve: Valve | None = Field(default=None, title="Valve")
    spray: SprayBar | None = Field(
        default=None, title="Ends in", description="An open end, or a spray bar of drilled holes."
    )
    air_hole: bool = Field(
        default=False,
        title="Air hole",
        description="Drilled just above the water where a pumped run ends under it: lets air in "
        "when the pump stops, so that no water siphons back. It dribbles while the pump runs.",
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

    @property
    def source(self) -> str:
        """Id of the part it begins at."""
        return part_id(self.start)

    @property
    def target(self) -> str:
        """Id of the part it ends at."""
        return part_id(self.end)


class Junction(Part):
    """Where runs meet, or where they end outside: an outfall to the ground or to waste. A run
    begins or ends at it by naming its id; none begins at an outfall."""

    id: Identifier
    name: Name = Field(title="Name")
    kind: Literal["tee", "wye", "plain", "outfall"] = Field(default="tee", title="Kind")
    height: Elevation = Field(title="Height", description="Centre of the bore over the datum.")
    straight: Identifier | None = Field(
        default=None, title="Straight on", description="The run that goes straight through."
    )
    along: Elevation | None = Field(
        default=None, title="Place from the left", description="Where the side view draws it."
    )
