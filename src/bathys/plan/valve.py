"""What every valve of a run has, whatever its kind."""

from abc import abstractmethod
from typing import ClassVar

from bathys.plan.base import Kind

__all__ = ["Valve"]


class Valve(Kind):
    """A valve that throttles or shuts a run."""

    GROUP: ClassVar[str] = "valves"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    SETTING: ClassVar[str]
    """The field that says how far it is open."""
    OPEN: ClassVar[float]
    """That field of a valve that is wide open."""
    HAS_LEVER: ClassVar[bool]
    """Whether a lever shows how far it is turned; else it has a wheel."""

    @property
    @abstractmethod
    def loss(self) -> float:
        """K on the run's bore, infinite when shut [-]."""

    @property
    @abstractmethod
    def turned(self) -> float:
        """Angle of its lever from open, 90 of a wheel [°]."""

    @property
    @abstractmethod
    def words(self) -> str:
        """How it stands, in words."""

    @property
    @abstractmethod
    def mark(self) -> str:
        """How it stands, as short as can be."""
