"""A sock of felt or mesh that a run ends in."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "FilterSock"]

_CAKE = 0.1  # dry, on its face when it lets nothing through (assumed) [kg/m²]


class FilterSock(Pad):
    """A sock of felt or mesh that a run ends in."""

    CHOICE: ClassVar[str] = "a sock at its end"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "behind"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-6.0, 0.0),
        (-5.0, 16.0),
        (0.0, 19.0),
        (5.0, 16.0),
        (6.0, 0.0),
    )
    CLEANING: ClassVar[str] = "turned inside out and hosed"

    kind: Literal["sock"] = "sock"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.2,
            "depth": 0.003,
            "void": 0.85,
            "fibre": 2.5e-05,
            "cut": 0.0001,
            "holds_coarse": 0.8,
            "holds_fine": 0.05,
            "past_head": 0.3,
        }

    @property
    def room(self) -> float:
        """Besides what its felt holds, a cake of 100 g/m² in it (assumed)."""
        return super().room + _CAKE * self.face


MODEL = FilterSock
