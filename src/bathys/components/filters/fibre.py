"""A bucket of fibre fill that water passes before the outlet."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "FibreBucket"]


class FibreBucket(Pad):
    """A bucket of fibre fill that water passes before the outlet."""

    CHOICE: ClassVar[str] = "a bucket of fibre fill"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-9.0, -9.0),
        (-7.0, 9.0),
        (7.0, 9.0),
        (9.0, -9.0),
        (-8.0, -2.0),
        (8.0, -2.0),
    )
    CLEANING: ClassVar[str] = "rinsed, or the fill renewed"

    kind: Literal["fibre"] = "fibre"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.06,
            "depth": 0.15,
            "void": 0.97,
            "fibre": 4e-05,
            "cut": 6e-05,
            "holds_coarse": 0.6,
            "holds_fine": 0.2,
            "past_head": 0.1,
        }


MODEL = FibreBucket
