"""What all parts of a plan are made of: frozen, strict, unknown fields refused."""

from typing import Protocol

from pydantic import BaseModel, ConfigDict

__all__ = ["Part", "Standing"]


class Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, populate_by_name=True)


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
