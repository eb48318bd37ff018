"""What all parts of a plan are made of: frozen, strict, unknown fields refused."""

from typing import TYPE_CHECKING, Any, ClassVar, Protocol

from pydantic import BaseModel, ConfigDict

__all__ = ["Kind", "Part", "Standing"]


class Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, populate_by_name=True)


class Kind(Part):
    """A part, or a piece of one, of which there are several kinds."""

    GROUP: ClassVar[str]
    """Where it stands: one of the plan's lists, or a field of a part."""

    if TYPE_CHECKING:
        kind: Any


class Standing(Protocol):
    """A part that stands in a vessel."""

    @property
    def id(self) -> str:
        """Its id."""

    @property
    def name(self) -> str:
        """Its name."""

    @property
    def stands_in(self) -> str:
        """The vessel's id."""
