"""What all parts of a plan are made of: frozen, strict, unknown fields refused."""

from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Protocol, Self

from pydantic import BaseModel, ConfigDict, Field

from bathys.plan.quantities import Identifier, Name, Words

__all__ = ["Headed", "Kind", "LeadsOn", "Part", "Standing", "Typed"]


class Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, populate_by_name=True)

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """As pydantic's, but without what cached properties have kept: it says nothing of a copy
        with other fields."""
        copied = super().model_copy(update=update, deep=deep)
        for kept in copied.__dict__.keys() - type(self).model_fields.keys():
            del copied.__dict__[kept]
        return copied

    def __hash__(self) -> int:
        """Of its fields, and kept: plans share parts, and a plan is asked for often."""
        return self._hashed

    @cached_property
    def _hashed(self) -> int:
        fields = self.__dict__
        return hash((type(self), *(fields[name] for name in type(self).model_fields)))

    def __getstate__(self) -> dict[Any, Any]:
        """Without what cached properties have kept: hashes differ from process to process."""
        state, own = super().__getstate__(), type(self).model_fields
        state["__dict__"] = {name: x for name, x in state["__dict__"].items() if name in own}
        return state


LONGEST_TYPED = 2000
"""Letters that are kept of what was typed for one field: the points of a curve are many lines."""


class Typed(Part):
    """What was typed for one field, as long as it holds the value that came of it."""

    field: Annotated[str, Field(max_length=120)]
    text: Annotated[Words, Field(min_length=1, max_length=LONGEST_TYPED)]


AllTyped = Annotated[tuple[Typed, ...], Field(max_length=100)]


def typed_for(typed: Sequence[Typed] | None, field: str) -> str:
    """What was typed for a field.

    Parameters
    ----------
    typed : sequence of Typed, optional
        What was typed, by field
    field : str
        Such as ``shape.length``

    Returns
    -------
    str
        The text; empty if that says no more than the field itself
    """
    return next((t.text for t in typed or () if t.field == field), "")


class Headed(Part):
    """A part of its own, with the head that all of them have."""

    id: Identifier
    name: Name = Field(title="Name")
    note: Annotated[Words, Field(max_length=500)] = Field(
        default="", title="Note", description="For yourself; nothing is worked out from it."
    )
    typed: AllTyped = ()

    @classmethod
    def of_version(cls, data: dict[str, Any], version: int) -> dict[str, Any]:
        """What a file of an older version says of such a part, as the present one says it.

        Parameters
        ----------
        data : dict
            The part's fields, of the caller's own to change
        version : int
            The file's

        Returns
        -------
        dict
            Its fields
        """
        return data


class LeadsOn(Headed):
    """A part from which a run leads on."""

    END: ClassVar[str]
    """What the place is called where that run begins."""

    @property
    def leads_from(self) -> str:
        """The place where that run begins, such as ``P1.out``."""
        return f"{self.id}.{self.END}"


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
