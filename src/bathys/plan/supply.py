"""What all that brings and takes water by itself has, whatever its kind."""

from abc import abstractmethod
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, ClassVar

from pydantic import Field

from bathys.plan.base import Headed, Kind
from bathys.plan.quantities import Flow, Height, Identifier

if TYPE_CHECKING:
    from bathys.plan.vessel import Vessel

__all__ = ["Move", "TopUp", "Transfer", "Visit"]


@dataclass(frozen=True, slots=True)
class Visit:
    """When somebody comes by.

    Attributes
    ----------
    at : float
        First, from midnight, [s]
    every : float
        From one visit to the next, [s]
    lasts : float
        How long at most, [s]
    """

    at: float
    every: float
    lasts: float


@dataclass(frozen=True, slots=True)
class Move:
    """Water moved again and again at a set time.

    Attributes
    ----------
    id, name : str
        Of the part that moves it
    source, target : str or None
        Ids of vessels; none outside
    volume : float
        Each time, [m³]
    flow : float
        How fast, [m³/s]
    at, every : float
        First, from midnight, and from one time to the next, [s]
    """

    id: str
    name: str
    source: str | None
    target: str | None
    volume: float
    flow: float
    at: float
    every: float

    @property
    def lasts(self) -> float:
        """How long it takes [s]."""
        return self.volume / self.flow


class TopUp(Kind, Headed):
    """What lets fresh water into a vessel when its level is low."""

    GROUP: ClassVar[str] = "top_ups"

    kind: Any
    stands_in: Identifier
    level: Height = Field(title="Shuts at", description="Level over the vessel's floor.")
    flow: Flow = Field(title="Flow when open")

    @property
    def lets_in(self) -> float:
        """What it lets in wide open [m³/s]."""
        return self.flow

    @property
    def draws_from(self) -> str | None:
        """The vessel it draws from; none from outside."""
        return None

    @property
    def visit(self) -> Visit | None:
        """When it may let water in; none for one that always may."""
        return None


class Transfer(Kind, Headed):
    """Water that is moved at a set time."""

    GROUP: ClassVar[str] = "transfers"

    kind: Any

    @property
    def takes_sludge(self) -> str | None:
        """The vessel whose sludge it lets out; none for plain water."""
        return None

    @property
    @abstractmethod
    def vessels(self) -> tuple[str, ...]:
        """Ids of the vessels it takes from and gives to."""

    @abstractmethod
    def moves(self, vessels: dict[str, "Vessel"]) -> tuple[Move, ...]:
        """What it moves, the plan's vessels by their ids: each a volume [m³] at a flow [m³/s]."""
