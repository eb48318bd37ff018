"""What everything has that is plugged in and moves no water."""

from abc import abstractmethod
from typing import Annotated, ClassVar

from pydantic import Field

from bathys.plan.base import Headed, Kind
from bathys.plan.quantities import Identifier, Words

__all__ = ["Circuit", "PluggedIn"]

Circuit = Annotated[Words, Field(max_length=40)]
"""Name of an electrical circuit; empty for the one that all share."""


class PluggedIn(Kind, Headed):
    """A consumer of its own."""

    GROUP: ClassVar[str] = "appliances"

    stands_in: Identifier
    circuit: Circuit = Field(
        default="", title="Circuit", description="Fuse or plug that it hangs on."
    )

    @property
    @abstractmethod
    def watts(self) -> float:
        """Drawn while it is on [W]."""

    @property
    @abstractmethod
    def needed(self) -> bool:
        """Whether fish die without it within hours."""

    @property
    @abstractmethod
    def light(self) -> float:
        """Light that it gives while it is on [µmol/s]."""

    @property
    @abstractmethod
    def spell(self) -> tuple[float, float]:
        """From when in the day, and for how long [s]."""
