"""What lives in a vessel, and what brings it air."""

from abc import abstractmethod
from typing import Annotated, Any, ClassVar

from pydantic import Field

from bathys.parts.species import Species
from bathys.plan.base import Headed, Kind
from bathys.plan.plugged_in import Circuit
from bathys.plan.quantities import Flow, Identifier, Opening

__all__ = ["Aerator", "AirSource", "Stock"]


class Stock(Kind, Headed):
    """Something that is fed."""

    GROUP: ClassVar[str] = "fish"

    stands_in: Identifier
    count: Any

    @property
    @abstractmethod
    def stands(self) -> Species:
        """What it stands and eats."""

    @property
    @abstractmethod
    def mass(self) -> float:
        """Of all of them now [kg]."""

    @property
    @abstractmethod
    def mass_at_harvest(self) -> float:
        """Of all of them at harvest [kg]."""

    @property
    @abstractmethod
    def mass_each(self) -> float:
        """Of one of them now [kg]."""

    @property
    @abstractmethod
    def harvest_each(self) -> float:
        """Of one of them at harvest [kg]."""

    @property
    @abstractmethod
    def feed(self) -> float:
        """A day now [kg]."""

    @property
    @abstractmethod
    def feed_grown(self) -> float:
        """Of it, what is grown at home [kg]."""

    @property
    @abstractmethod
    def protein_share(self) -> float:
        """Protein in its feed [-]."""


class Aerator(Kind, Headed):
    """Something that brings air into the water of a vessel."""

    GROUP: ClassVar[str] = "air"

    stands_in: Identifier
    fed_by: Identifier | None = Field(
        default=None, title="Fed by", description="An air pump; none to tell its air below."
    )
    flow: Flow = Field(title="Air", description="That it lets out, where no air pump is told.")
    valve_open: Annotated[Opening, Field(ge=0.02)] = Field(
        default=1.0, title="Air valve open", description="Turn it down where others get too little."
    )

    @property
    @abstractmethod
    def mouth(self) -> float:
        """Height over the floor at which air comes out [m]."""

    @abstractmethod
    def transfer(self, air: float, level: float, temperature: float) -> float:
        """What so much free air [m³/s] brings for each g/m³ that water of this temperature [°C],
        standing so far over the floor [m], is short of its limit [m³/s]."""

    @abstractmethod
    def asks(self, air: float, level: float, density: float) -> float:
        """Pressure before its line that lets out so much air [m³/s] under water of this density
        [kg/m³] that stands so far over the floor [m], in [Pa]."""


class AirSource(Kind, Headed):
    """Something that gives air to aerators."""

    GROUP: ClassVar[str] = "air_pumps"

    circuit: Circuit = Field(
        default="", title="Circuit", description="Fuse or plug that it hangs on."
    )

    @property
    @abstractmethod
    def most_flow(self) -> float:
        """Free air that it gives at no pressure [m³/s]."""

    @property
    @abstractmethod
    def most_pressure(self) -> float:
        """Pressure that it gives at no flow [Pa]."""

    @property
    @abstractmethod
    def watts(self) -> float:
        """Drawn while it runs [W]."""

    @abstractmethod
    def pressure(self, flow: float) -> float:
        """What it gives at so much free air [m³/s], in [Pa]."""
