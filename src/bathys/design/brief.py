"""What a builder says at the start: what they have, want and allow."""

import json
from collections.abc import Collection
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from bathys.design.places import PLACES
from bathys.kinds import model_named
from bathys.parts.bores import standards
from bathys.parts.containers import container
from bathys.parts.media import MEDIA
from bathys.parts.practice import SCHOOLS
from bathys.parts.species import SPECIES
from bathys.plan.loading import Fault, faults_of
from bathys.plan.shell import Shell, shell_from

__all__ = ["AIMS", "Aim", "BadBrief", "DesignBrief", "VesselWish", "brief_from_data", "shell_of"]

Aim = Literal["power", "cost", "margin"]

AIMS: dict[Aim, str] = {
    "power": "least power",
    "cost": "least to buy",
    "margin": "most margin",
}
"""What may matter most, in words."""

Length = Annotated[float, Field(ge=0.0, le=20.0, allow_inf_nan=False)]


class _Told(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)


class VesselWish(_Told):
    """Vessels of one job.

    Attributes
    ----------
    count : int
        How many
    container : str
        Key of the container each is made of; empty where its sizes are told
    shape : dict
        The shell as plan data, where it is measured, [m]
    """

    count: Annotated[int, Field(ge=0, le=12)] = 1
    container: str = ""
    shape: dict[str, Any] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _is_known(self) -> Self:
        if self.container and container(self.container) is None:
            raise ValueError("there is no such container")
        if self.shape:
            model = model_named("shells", str(self.shape.get("kind")))
            if model is None:
                raise ValueError("there is no such kind of vessel")
            model.model_validate_json(json.dumps(self.shape))
        elif not self.container and self.count:
            raise ValueError("say which container, or its sizes")
        return self


class DesignBrief(_Told):
    """A brief.

    Attributes
    ----------
    layout : str
        Key of the layout
    tank, beds, rafts : VesselWish
        The fish tank, the grow beds and the rafts
    side_tanks : VesselWish
        Small tanks for fingerlings or fish that are kept apart
    medium : str
        What beds are filled with
    dig : float
        How deep may be dug, [m]
    highest : float
        Rim that is still reached, over the ground, [m]
    apart : float
        Pipe from one vessel to the next, [m]
    fish : float or None
        At harvest, all together; none for as many as the beds and rafts feed on, [kg]
    species : str
        Kind of fish
    temperature : float
        Of the water, [°C]
    schools : tuple of str
        Schools of how much water is to move
    pipe : str
        Standard of the pipe
    days_away : int
        For how long nobody tops it up, [d]
    room_length, room_width : float or None
        Of the room or the piece of ground that it has to fit, [m]; none where it does not matter
    place : str
        Where it stands, a key of :data:`~bathys.design.places.PLACES`
    hot_air : float or None
        On a summer afternoon, by which evaporation goes; none if not known, [°C]
    tariff : float
        Price of a kilowatt-hour, [money/kWh]
    own_pump : str
        Name of a pump that is to be used; empty for none
    budget, most_watts, most_load : float or None
        What all that is bought may cost, [money], what pumps and air pump may draw, [W], and what a
        vessel may weigh on its footprint, [Pa]; none where it does not matter
    is_quiet : bool
        Whether nothing may gurgle, as siphons do when they stop
    power_cut : float or None
        The longest that fish are to live through, [s]; none if not known
    matters : Aim
        What matters most
    """

    format: Literal["bathys-brief"] = "bathys-brief"
    version: Literal[1] = 1
    name: Annotated[str, Field(min_length=1, max_length=80)] = "New plan"
    layout: str
    tank: VesselWish
    beds: VesselWish = VesselWish(count=0)
    rafts: VesselWish = VesselWish(count=0)
    side_tanks: VesselWish = VesselWish(count=0)
    medium: str = "expanded_clay"
    dig: Annotated[float, Field(ge=0.0, le=1.5, allow_inf_nan=False)] = 0.0
    highest: Annotated[float, Field(ge=0.2, le=3.0, allow_inf_nan=False)] = 1.6
    apart: Annotated[float, Field(ge=0.2, le=20.0, allow_inf_nan=False)] = 1.0
    fish: Annotated[float, Field(ge=0.0, le=2000.0, allow_inf_nan=False)] | None = None
    species: str = "warm"
    temperature: Annotated[float, Field(ge=1.0, le=35.0, allow_inf_nan=False)] = 24.0
    schools: Annotated[tuple[str, ...], Field(min_length=1, max_length=4)] = ("tank",)
    pipe: str = "ASTM D1785 Schedule 40"
    days_away: Annotated[int, Field(ge=0, le=60)] = 3
    room_length: Annotated[float, Field(gt=0.0, le=100.0, allow_inf_nan=False)] | None = None
    room_width: Annotated[float, Field(gt=0.0, le=100.0, allow_inf_nan=False)] | None = None
    place: str = "yard"
    hot_air: Annotated[float, Field(ge=-10.0, le=55.0, allow_inf_nan=False)] | None = None
    tariff: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False)] = 0.30
    own_pump: Annotated[str, Field(max_length=80)] = ""
    budget: Annotated[float, Field(gt=0.0, le=1e7, allow_inf_nan=False)] | None = None
    most_watts: Annotated[float, Field(gt=0.0, le=1e5, allow_inf_nan=False)] | None = None
    most_load: Annotated[float, Field(gt=0.0, le=1e6, allow_inf_nan=False)] | None = None
    is_quiet: bool = False
    power_cut: Annotated[float, Field(ge=0.0, le=604_800.0, allow_inf_nan=False)] | None = None
    units: Literal["metric", "us"] = "metric"
    matters: Aim = "power"

    @model_validator(mode="after")
    def _is_known(self) -> Self:
        known: tuple[tuple[str, Collection[str], str], ...] = (
            (self.medium, MEDIA, "medium"),
            (self.species, SPECIES, "kind of fish"),
            (self.pipe, standards(), "standard of pipe"),
            (self.place, PLACES, "kind of place"),
            *((school, SCHOOLS, "school") for school in self.schools),
        )
        for told, choices, words in known:
            if told not in choices:
                raise ValueError(f"there is no {words} “{told}”")
        if (self.room_length is None) != (self.room_width is None):
            raise ValueError("a room has a length and a width")
        if self.tank.count < 1:
            raise ValueError("it takes a fish tank")
        return self


class BadBrief(ValueError):
    """No brief; its message is a sentence.

    Attributes
    ----------
    faults : tuple of Fault
        What is wrong
    """

    def __init__(self, faults: tuple[Fault, ...]) -> None:
        super().__init__("; ".join(f"{f.path}: {f.sentence}" for f in faults))
        self.faults = faults


def brief_from_data(data: Any) -> DesignBrief:
    """A brief from parsed JSON.

    Parameters
    ----------
    data : object
        What ``json.loads`` gave, lengths in [m] and mass in [kg]

    Returns
    -------
    DesignBrief
        The brief

    Raises
    ------
    BadBrief
        With path and sentence of each fault
    """
    try:
        return DesignBrief.model_validate_json(json.dumps(data))
    except ValidationError as error:
        raise BadBrief(tuple(faults_of(error, data))) from None


def shell_of(wish: VesselWish) -> Shell:
    """The shell of a wish.

    Parameters
    ----------
    wish : VesselWish
        The wish, of at least one vessel

    Returns
    -------
    Shell
        The shell
    """
    return shell_from(wish.shape or _container_shape(wish.container))


def _container_shape(key: str) -> dict[str, Any]:
    found = container(key)
    return dict(found.shape) if found is not None else {}
