"""What everything that sits in the line of a run has, whatever its kind."""

from abc import abstractmethod
from collections.abc import Mapping
from typing import Any, ClassVar

from pydantic import Field

from bathys.plan.base import Kind
from bathys.plan.bore import Bore
from bathys.plan.quantities import Count, Length

__all__ = ["InLine"]


class InLine(Kind):
    """Some pieces of one kind in the line of a run."""

    GROUP: ClassVar[str] = "fittings"
    NAMES: ClassVar[Mapping[str, str]]
    """What its pieces are called, by what a plan file calls their kind."""
    IS_DRAWN: ClassVar[bool] = False
    """Whether the side view marks it on its run."""

    kind: Any
    count: Count = Field(title="Pieces")
    at: Length | None = Field(
        default=None,
        title="stands at",
        description="Along the pipe from where it begins; none where it does not matter.",
    )

    @classmethod
    def usual(cls, kind: str, bore: Bore) -> dict[str, Any]:
        """What one of a kind begins with on a run of a bore, besides its kind and count."""
        return {}

    @abstractmethod
    def loss_of_one(self, bore: float) -> float:
        """K of one piece on the run's bore [m]."""

    @property
    def has_place(self) -> bool:
        """Whether it matters where on the run it stands."""
        return self.IS_DRAWN

    @property
    def holds_back(self) -> bool:
        """Whether it stops water from running backwards."""
        return False

    @property
    def fault(self) -> tuple[str, str] | None:
        """A field that does not go with its kind, and a sentence on it; none if all do."""
        return None

    @property
    def piece(self) -> str:
        """What one is called."""
        return self.NAMES[self.kind]

    @property
    def words(self) -> str:
        """How many of what."""
        return f"{self.count} × {self.piece}"

    @property
    def label(self) -> str:
        """:attr:`words`, with the size where that matters."""
        return self.words
