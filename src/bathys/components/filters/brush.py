"""Brushes that fill a chamber before its outlet."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "BrushStage"]


class BrushStage(Pad):
    """Brushes that fill a chamber before its outlet."""

    CHOICE: ClassVar[str] = "brushes before the outlet"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-8.0, -9.0),
        (8.0, -9.0),
        (-8.0, -3.0),
        (8.0, -3.0),
        (-8.0, 3.0),
        (8.0, 3.0),
        (-8.0, 9.0),
        (8.0, 9.0),
    )
    CLEANING: ClassVar[str] = "shaken and hosed"

    kind: Literal["brush"] = "brush"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.12,
            "depth": 0.4,
            "void": 0.97,
            "fibre": 0.0003,
            "cut": 6e-05,
            "holds_coarse": 0.4,
            "holds_fine": 0.05,
        }


MODEL = BrushStage
