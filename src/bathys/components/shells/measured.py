"""A shell of any shape, known by the water that was poured in."""

from itertools import pairwise
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from bathys.plan.base import Part
from bathys.plan.quantities import Height
from bathys.plan.shell import Layer, Shell

__all__ = ["MODEL", "LevelPoint", "Measured"]

_CURVED_MARKS = 6  # of a bottom that is not flat; few enough to type over


_LAST = 2e-3  # below the rim of a shell that slopes up to it, so that its area there is told [m]


class LevelPoint(Part):
    """One mark of a vessel that was measured: the water it holds up to a level."""

    level: Height
    volume: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False)]


class Measured(Shell):
    """A shell of any shape, known by the water poured in [m³] against the level reached [m]."""

    CHOICE: ClassVar[str] = "measured by filling it"

    kind: Literal["measured"] = "measured"
    marks: Annotated[tuple[LevelPoint, ...], Field(min_length=2, max_length=50)] = Field(
        title="Marks",
        description="One a line, level and all the water poured in up to it; the floor first, the "
        "rim last. Or pasted from a table as level, volume.",
    )

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.marks[0].level != 0.0 or self.marks[0].volume != 0.0:
            raise ValueError("the first mark is the floor: level 0, volume 0")
        for number, (one, two) in enumerate(pairwise(self.marks), start=2):
            if two.level <= one.level or two.volume <= one.volume:
                raise ValueError(f"mark {number} must be higher and hold more than the one before")
        return self

    @classmethod
    def like(cls, other: Shell) -> Self:
        """What would be measured of another shell: few marks where its bottom is curved."""
        curved = other.layers[-1][0]
        to_rim = curved > other.height - _LAST  # one that slopes to its rim
        curved = other.height - _LAST if to_rim else curved
        low = [curved * k / _CURVED_MARKS for k in range(1, _CURVED_MARKS + 1)] if curved else []
        points = [
            LevelPoint(level=round(z, 4), volume=round(other.holds(z), 6)) for z in (0.0, *low)
        ]
        if to_rim:
            last = other.capacity - other.footprint * _LAST
            points[-1] = LevelPoint(level=other.height - _LAST, volume=last)
        return cls(
            marks=(*points, LevelPoint(level=other.height, volume=other.capacity))
            if to_rim
            else (
                *points,
                LevelPoint(level=round(other.height, 4), volume=round(other.capacity, 6)),
            )
        )

    @property
    def height(self) -> float:
        """Height of the rim over the floor [m]."""
        return self.marks[-1].level

    @property
    def layers(self) -> list[Layer]:
        return [
            (one.level, (two.volume - one.volume) / (two.level - one.level))
            for one, two in pairwise(self.marks)
        ]


MODEL = Measured
