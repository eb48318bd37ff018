"""Runs of pipe and hose, what stands in them and where they meet."""

from typing import TYPE_CHECKING, Annotated, Any, Literal, TypeAlias

from pydantic import Field

from bathys.kinds import union_of
from bathys.parts.fittings import JUNCTIONS
from bathys.parts.fouling import FOULING, Film, film_of_thickness
from bathys.plan.base import Headed
from bathys.plan.bore import Bore
from bathys.plan.end import End
from bathys.plan.filter import Filter
from bathys.plan.ground import Route, Spot
from bathys.plan.in_line import InLine
from bathys.plan.own_limits import RunLimits
from bathys.plan.places import part_id
from bathys.plan.quantities import (
    Elevation,
    FilmThickness,
    Flow,
    Identifier,
    Length,
    Slope,
)
from bathys.plan.switch import Clock, Switch
from bathys.plan.valve import Valve
from bathys.plan.wall_hole import WallHole

__all__ = [
    "Junction",
    "Run",
]

if TYPE_CHECKING:
    AnyFilm: TypeAlias = str
    AnyJunction: TypeAlias = str
    AnyInLine: TypeAlias = InLine
    AnyValve: TypeAlias = Valve
    AnyEnd: TypeAlias = End
    AnyFilter: TypeAlias = Filter
    AnySwitch: TypeAlias = Switch
else:
    AnyFilm, AnyJunction = Literal[tuple(FOULING)], Literal[tuple(JUNCTIONS)]
    AnyInLine, AnyValve = union_of("fittings"), union_of("valves")
    AnyEnd, AnySwitch = union_of("ends", usual="spray"), union_of("switches")
    AnyFilter = union_of("filters")


class Run(Headed):
    """One line of pipe or hose of one bore from a port to a vessel's port or a junction.

    Its length is the length along the level plus the difference in height of its ends, so that
    raising a vessel lengthens its pipes by itself.
    """

    kind: Literal["run"] = "run"
    start: str = Field(alias="from")
    end: str = Field(alias="to")
    bore: Bore = Field(title="Bore")
    level_length: Length = Field(
        title="Length along the level", description="Rises and drops are added by themselves."
    )
    fittings: Annotated[tuple[AnyInLine, ...], Field(max_length=60)] = ()
    valve: AnyValve | None = Field(default=None, title="Valve")
    valve_at: Length | None = Field(
        default=None,
        title="Valve stands at",
        description="Along the pipe from where it begins; none where it does not matter.",
    )
    valve_clock: AnySwitch | None = Field(default=None, title="Valve opens by")
    ends_in: AnyEnd | None = Field(default=None, title="Ends in")
    filter: AnyFilter | None = Field(default=None, title="Filter")
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
    own: RunLimits = RunLimits()
    route: Route | None = None
    start_hole: WallHole | None = None
    end_hole: WallHole | None = None
    fouling: AnyFilm = Field(default="new", title="Wall film")
    film: FilmThickness | None = Field(
        default=None,
        title="Wall film, as measured",
        description="Its thickness; none where the state above is all that is known.",
    )

    @property
    def wall(self) -> Film:
        """The film on its wall: as measured, or as its state says."""
        return FOULING[self.fouling] if self.film is None else film_of_thickness(self.film)

    @classmethod
    def of_version(cls, data: dict[str, Any], version: int) -> dict[str, Any]:
        """Up to version 2 a run ended open, or in a spray bar."""
        if "spray" in data:
            data["ends_in"] = data.pop("spray")
        return data

    @property
    def source(self) -> str:
        """Id of the part it begins at."""
        return part_id(self.start)

    @property
    def opens_by(self) -> Clock | None:
        """When its valve is open, if a clock turns it."""
        return self.valve_clock.clock if self.valve_clock is not None else None

    @property
    def is_usually_shut(self) -> bool:
        """Whether a clock keeps its valve shut more than half of the time."""
        return self.opens_by is not None and self.opens_by.share < 0.5

    @property
    def target(self) -> str:
        """Id of the part it ends at."""
        return part_id(self.end)


class Junction(Headed):
    """Where runs meet, or where they end outside: an outfall to the ground or to waste. A run
    begins or ends at it by naming its id; none begins at an outfall."""

    kind: AnyJunction = Field(default="tee", title="Kind")
    height: Elevation = Field(title="Height", description="Centre of the bore over the datum.")
    straight: Identifier | None = Field(
        default=None, title="Straight on", description="The run that goes straight through."
    )
    spot: Spot | None = None
    along: Elevation | None = Field(
        default=None, title="Place from the left", description="Where the side view draws it."
    )
