"""A figure never stands bare: it says what it is compared with, how it was made, and from what."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

__all__ = ["Figure", "Input", "SourceKind"]

SourceKind = Literal["published", "common practice", "derived"]


@dataclass(frozen=True, slots=True)
class Input:
    """A number that went into a figure.

    Attributes
    ----------
    label : str
        Its name
    value : float
        In the engine's unit
    quantity : str
        Its quantity
    """

    label: str
    value: float
    quantity: str


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure of an evaluation.

    Attributes
    ----------
    key : str
        Stable name, such as ``P1.flow``
    place : str
        Id of the part it is about
    label : str
        Its name for people
    value : float or None
        In the engine's unit; none where there is no such figure
    quantity : str
        Its quantity
    compare : str
        What it is compared with, with slots ``{name:quantity}``
    compare_with : mapping
        Figures for the slots
    equation : str
        How it was made
    inputs : tuple of Input
        What went into it
    source : str
        Where the equation comes from
    kind : str
        How far to trust the source
    """

    key: str
    place: str
    label: str
    value: float | None
    quantity: str
    compare: str
    compare_with: Mapping[str, float] = field(default_factory=dict)
    equation: str = ""
    inputs: tuple[Input, ...] = ()
    source: str = ""
    kind: SourceKind = "derived"
