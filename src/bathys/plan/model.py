"""The plan document: what the builder drew. Frozen, versioned, unknown fields refused."""

from collections.abc import Iterator
from functools import cached_property
from typing import TYPE_CHECKING, Annotated, Any, Literal, TypeAlias

from pydantic import AfterValidator, Field

from bathys.kinds import union_of
from bathys.parts.fittings import JUNCTIONS
from bathys.parts.practice import PRACTICES, SCHOOLS
from bathys.plan.base import AllTyped, LeadsOn, Part, Standing
from bathys.plan.ground import Ground
from bathys.plan.pipes import Junction, Run
from bathys.plan.places import part_id
from bathys.plan.plugged_in import PluggedIn
from bathys.plan.pumps import Pump
from bathys.plan.quantities import (
    Height,
    Mass,
    Money,
    Name,
    Outage,
    StockedAfter,
    Words,
)
from bathys.plan.site import Site
from bathys.plan.stock import Aerator, AirSource, Stock
from bathys.plan.supply import Move, TopUp, Transfer
from bathys.plan.vessel import Port, Vessel
from bathys.plan.way_out import Outlet, Siphon, WayOut

__all__ = ["GROUPS", "Brief", "Plan"]


GROUPS = (
    "vessels",
    "pumps",
    "runs",
    "siphons",
    "outlets",
    "junctions",
    "top_ups",
    "transfers",
    "fish",
    "air",
    "air_pumps",
    "appliances",
)
"""The plan's lists of parts."""


if TYPE_CHECKING:
    School: TypeAlias = str
    FeedPlace: TypeAlias = str
    TailJoints: TypeAlias = str
    Exchange: TypeAlias = str
    Bacteria: TypeAlias = str
    Draining: TypeAlias = str
    Solids: TypeAlias = str
    Start: TypeAlias = str
    AnySiphon: TypeAlias = Siphon
    AnyOutlet: TypeAlias = Outlet
    AnyTopUp: TypeAlias = TopUp
    AnyTransfer: TypeAlias = Transfer
    AnyStock: TypeAlias = Stock
    AnyAerator: TypeAlias = Aerator
    AnyAirSource: TypeAlias = AirSource
    AnyAppliance: TypeAlias = PluggedIn
else:
    School = Literal[tuple(SCHOOLS)]
    FeedPlace, TailJoints, Exchange, Bacteria, Start, Solids, Draining = (
        Literal[("open", *p.ways)] for p in PRACTICES.values()
    )
    AnySiphon, AnyOutlet = union_of("siphons", usual="bell"), union_of("outlets")
    AnyTopUp = union_of("top_ups", usual="float_valve")
    AnyTransfer = union_of("transfers", usual="transfer")
    AnyStock, AnyAerator = union_of("fish"), union_of("air")
    AnyAirSource, AnyAppliance = union_of("air_pumps"), union_of("appliances")


_SHORTEST_FISH = 0.003  # as it hatches (common practice) [m]


def _a_fish(length: float) -> float:
    """A length that a fish may have, or 0 where none is told."""
    if 0.0 < length < _SHORTEST_FISH:
        raise ValueError("no fish is shorter than 3 mm (0.12 in); write 0 if it does not matter")
    return length


class Brief(Part):
    """What the builder wants of the layout."""

    typed: AllTyped | None = None
    purpose: Annotated[Words, Field(max_length=500)] = Field(default="", title="Purpose")
    fish_mass: Mass = Field(default=0.0, title="Fish at harvest", description="All together.")
    feed_a_day: Mass | None = Field(
        default=None, title="Feed a day", description="None for a hundredth of the fish at harvest."
    )
    budget: Money | None = Field(
        default=None, title="Budget", description="For all that is bought; none if open."
    )
    smallest_fish: Annotated[Height, Field(le=2.0), AfterValidator(_a_fish)] = Field(
        default=0.0,
        title="Length of the smallest fish",
        description="Openings are held against it; 0 if it does not matter.",
    )
    schools: tuple[School, ...] = Field(default=("tank",), title="Turnover schools")
    feed_place: FeedPlace = Field(default="open", title=PRACTICES["feed_place"].title)
    tail_joints: TailJoints = Field(default="open", title=PRACTICES["tail_joints"].title)
    exchange: Exchange = Field(default="open", title=PRACTICES["exchange"].title)
    bacteria: Bacteria = Field(default="open", title=PRACTICES["bacteria"].title)
    start: Start = Field(default="open", title=PRACTICES["start"].title)
    stocked_after: StockedAfter | None = Field(
        default=None,
        title="Fish come after",
        description="From when the water goes round; none if not settled.",
    )
    power_cut: Outage | None = Field(
        default=None,
        title="Longest power cut",
        description="That fish are to live through; none if not known.",
    )
    solids: Solids = Field(default="open", title=PRACTICES["solids"].title)
    draining: Draining = Field(default="open", title=PRACTICES["draining"].title)


class Plan(Part):
    """A layout of vessels and the runs between them. Made by :func:`~bathys.plan.plan_from_data`,
    which sees to it that its parts go together."""

    format: Literal["bathys-plan"] = "bathys-plan"
    version: Literal[4] = 4
    name: Name = Field(title="Plan name")
    datum: Name = Field(default="ground at the tank", title="Heights are over")
    brief: Brief = Brief()
    site: Site = Site()
    ground: Ground | None = None
    vessels: Annotated[tuple[Vessel, ...], Field(min_length=1, max_length=120)]
    pumps: Annotated[tuple[Pump, ...], Field(max_length=50)] = ()
    runs: Annotated[tuple[Run, ...], Field(max_length=400)] = ()
    siphons: Annotated[tuple[AnySiphon, ...], Field(max_length=100)] = ()
    outlets: Annotated[tuple[AnyOutlet, ...], Field(max_length=200)] = ()
    junctions: Annotated[tuple[Junction, ...], Field(max_length=400)] = ()
    top_ups: Annotated[tuple[AnyTopUp, ...], Field(max_length=50)] = ()
    transfers: Annotated[tuple[AnyTransfer, ...], Field(max_length=50)] = ()
    fish: Annotated[tuple[AnyStock, ...], Field(max_length=50)] = ()
    air: Annotated[tuple[AnyAerator, ...], Field(max_length=100)] = ()
    air_pumps: Annotated[tuple[AnyAirSource, ...], Field(max_length=20)] = ()
    appliances: Annotated[tuple[AnyAppliance, ...], Field(max_length=50)] = ()

    def lists(self) -> Iterator[tuple[str, tuple[Any, ...]]]:
        """Each list of parts with its name."""
        for group in GROUPS:
            yield group, getattr(self, group)

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
        return self._parts.get(id_)

    @cached_property
    def names(self) -> dict[str, str]:
        """What its parts are called, by id; what sentences are filled with."""
        return {id_: str(part.name) for id_, part in self._parts.items()}

    def group_of(self, id_: str) -> str:
        """The list a part stands in, such as ``runs``; empty if there is no such part."""
        return self._groups.get(id_, "")

    @cached_property
    def _parts(self) -> dict[str, Any]:
        return {p.id: p for _, parts in self.lists() for p in parts}

    @cached_property
    def _groups(self) -> dict[str, str]:
        return {p.id: group for group, parts in self.lists() for p in parts}

    @property
    def standing(self) -> tuple[Standing, ...]:
        """Everything that stands in a vessel."""
        found: list[Standing] = [*self.pumps]
        found += [*self.ways_out]
        return (*found, *self.top_ups, *self.fish, *self.air, *self.appliances)

    @cached_property
    def moves(self) -> tuple[Move, ...]:
        """All water that is moved at set times."""
        by_id = {v.id: v for v in self.vessels}
        return tuple(m for t in self.transfers for m in t.moves(by_id))

    @property
    def float_valves(self) -> tuple[TopUp, ...]:
        """What tops up with nobody there."""
        return tuple(t for t in self.top_ups if t.visit is None)

    @property
    def ways_out(self) -> tuple[WayOut, ...]:
        """Siphons and outlets."""
        return (*self.siphons, *self.outlets)

    def ways_out_of(self, vessel: str) -> tuple[WayOut, ...]:
        """Siphons and outlets that stand in a vessel."""
        return self._ways_out.get(vessel, ())

    @cached_property
    def _ways_out(self) -> dict[str, tuple[WayOut, ...]]:
        found: dict[str, tuple[WayOut, ...]] = {}
        for way in self.ways_out:
            found[way.stands_in] = (*found.get(way.stands_in, ()), way)
        return found

    def vessels_within(self, vessel: str) -> tuple[Vessel, ...]:
        """Vessels that stand within another."""
        return self._within.get(vessel, ())

    @cached_property
    def _within(self) -> dict[str, tuple[Vessel, ...]]:
        found: dict[str, tuple[Vessel, ...]] = {}
        for one in self.vessels:
            if one.within is not None:
                found[one.within] = (*found.get(one.within, ()), one)
        return found

    def run_of(self, part: LeadsOn) -> Run | None:
        """The run that leads on from a pump, a siphon or an outlet, if there is one."""
        return self.run_from(part.leads_from)

    def port(self, name: str) -> Port | None:
        """A vessel's port by its full name, such as ``T1.return``; none for any other place."""
        return self._places.get(name, (None, None))[0]

    def elevation(self, place: str) -> float | None:
        """Height over the datum [m] of a vessel's port or a junction; none for a pump's end, a
        siphon's or an outlet's."""
        return self._places.get(place, (None, None))[1]

    def is_outfall(self, place: str) -> bool:
        """Whether a place lies outside: water that arrives there leaves the system."""
        return place in self._outfalls

    @cached_property
    def _outfalls(self) -> frozenset[str]:
        return frozenset(j.id for j in self.junctions if JUNCTIONS[j.kind].is_end)

    @cached_property
    def joints(self) -> frozenset[str]:
        """Where runs meet and water passes from one to the other: no outfall is one."""
        return frozenset(j.id for j in self.junctions if j.id not in self._outfalls)

    def owner_of(self, place: str) -> str | None:
        """The vessel a port, an outlet, a siphon or a pump belongs to; none for a junction."""
        return self._owners.get(part_id(place))

    @cached_property
    def _owners(self) -> dict[str, str]:
        return {v.id: v.id for v in self.vessels} | {p.id: p.stands_in for p in self.standing}

    @cached_property
    def _places(self) -> dict[str, tuple[Port | None, float]]:
        ports = {
            f"{v.id}.{p.name}": (p, float(v.floor_height) + p.height)
            for v in self.vessels
            for p in v.ports
        }
        return {**ports, **{j.id: (None, float(j.height)) for j in self.junctions}}
