"""Bores of pipes and hoses."""

from functools import cached_property
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from bathys.parts.bores import PipeSize, bore_of, pipe_sizes, standards
from bathys.plan.base import Part

__all__ = ["Bore", "InsideDiameter", "StandardBore", "bore_of_size"]

_HOSE_WALL = 0.002  # wall of a pipe known only by its bore [m] (assumed)


class _Bore(Part):
    """What both ways to tell a bore have."""

    @property
    def size(self) -> PipeSize | None:
        """The size of pipe it is, where it is one of a standard."""
        return None

    @property
    def wider(self) -> tuple[PipeSize, ...]:
        """Wider sizes of its own standard, the next one first."""
        size = self.size
        if size is None:
            return ()
        return tuple(s for s in pipe_sizes(size.standard) if s.bore > size.bore)


class StandardBore(_Bore):
    """A bore by standard and nominal size."""

    kind: Literal["standard"] = "standard"
    standard: str
    nominal: str

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.standard not in standards():
            raise ValueError(f"no table for “{self.standard}”; there is {', '.join(standards())}")
        try:
            bore_of(self.standard, self.nominal)
        except KeyError:
            raise ValueError(f"{self.standard} has no size “{self.nominal}”") from None
        return self

    @cached_property
    def inside(self) -> float:
        """Inside diameter [m]."""
        return bore_of(self.standard, self.nominal)

    @cached_property
    def size(self) -> PipeSize:
        """The size of pipe it is."""
        return next(s for s in pipe_sizes(self.standard) if s.nominal == self.nominal)

    @property
    def outside(self) -> float:
        """Outside diameter [m]."""
        return self.size.outside_diameter


class InsideDiameter(_Bore):
    """A bore by its inside diameter, as hose is sold."""

    kind: Literal["inside"] = "inside"
    diameter: Annotated[float, Field(gt=0.001, le=2.0, allow_inf_nan=False)]
    outer: Annotated[float, Field(gt=0.001, le=2.2, allow_inf_nan=False)] | None = None

    @model_validator(mode="after")
    def _has_a_wall(self) -> Self:
        if self.outer is not None and self.outer <= self.diameter:
            raise ValueError("a pipe is wider outside than inside")
        return self

    @property
    def inside(self) -> float:
        """Inside diameter [m]."""
        return self.diameter

    @property
    def outside(self) -> float:
        """Outside diameter; where it is not told, with a wall as hose has [m]."""
        return self.outer if self.outer is not None else self.diameter + 2.0 * _HOSE_WALL


Bore = Annotated[StandardBore | InsideDiameter, Field(discriminator="kind")]


def bore_of_size(size: PipeSize) -> StandardBore:
    """The bore of a pipe of a standard.

    Parameters
    ----------
    size : PipeSize
        Size of the pipe

    Returns
    -------
    StandardBore
        The bore
    """
    return StandardBore(standard=size.standard, nominal=size.nominal)
