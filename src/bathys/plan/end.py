"""What every end of a run has, whatever its kind."""

from abc import abstractmethod
from typing import Any, ClassVar

from bathys.plan.base import Kind

__all__ = ["End", "EndLoss"]

EndLoss = tuple[str, float, float]
"""What loses head: in words, the bore of its open area [m], and K on that bore [-]."""


class End(Kind):
    """What a run ends in above or under the water of a vessel, in place of an open end."""

    GROUP: ClassVar[str] = "ends"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    MARK: ClassVar[tuple[tuple[float, float], ...]]
    """Its line in the side view, in picture units from the end of the run, water going to the
    right or down."""

    @classmethod
    @abstractmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Its fields as they begin, at the end of a run of this bore [m]."""

    @abstractmethod
    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        """What it loses at the end of a run of this bore [m], the jet's velocity head in it."""

    @property
    def small_holes(self) -> int:
        """How many holes it ends in that may block; 0 for one that has none."""
        return 0

    @property
    def smallest_hole(self) -> float | None:
        """Width of the narrowest hole that water leaves by; none for an open pipe [m]."""
        return None

    @property
    def may_draw_air(self) -> bool:
        """Whether it is built to draw in air."""
        return type(self).draws_air is not End.draws_air

    def draws_air(self, flow: float, bore: float, depth: float) -> float:
        """Free air [m³/s] that it draws in at a flow [m³/s], on a run of this bore [m] and so far
        under the water [m]."""
        return 0.0

    def unevenness(self, bore: float) -> float | None:
        """By how much its last opening gives more than its first, as a share, on a run of this
        bore [m]; none for what has one opening [-]."""
        return None
