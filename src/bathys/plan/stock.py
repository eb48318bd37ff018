"""What lives in a vessel, and what brings it air."""

from abc import abstractmethod
from typing import ClassVar

from bathys.parts.species import Species
from bathys.plan.base import Headed, Kind
from bathys.plan.quantities import Identifier

__all__ = ["Aerator", "Stock"]


class Stock(Kind, Headed):
    """Something that is fed."""

    GROUP: ClassVar[str] = "fish"

    stands_in: Identifier

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
    def feed(self) -> float:
        """A day now [kg]."""

    @property
    @abstractmethod
    def protein_share(self) -> float:
        """Protein in its feed [-]."""


class Aerator(Kind, Headed):
    """Something that brings air into the water of a vessel."""

    GROUP: ClassVar[str] = "air"

    stands_in: Identifier

    @abstractmethod
    def transfer(self, level: float, temperature: float) -> float:
        """What it brings for each g/m³ that water of this temperature [°C], standing so far over
        the floor [m], is short of its limit [m³/s]."""

    @property
    @abstractmethod
    def air(self) -> float:
        """Free air that it lets out [m³/s]."""
