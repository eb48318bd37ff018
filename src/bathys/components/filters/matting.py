"""Sheets of matting across a chamber before its outlet."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "MattingSheet"]


class MattingSheet(Pad):
    """Sheets of matting across a chamber before its outlet."""

    CHOICE: ClassVar[str] = "matting before the outlet"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-5.0, -10.0),
        (-5.0, 10.0),
        (0.0, 10.0),
        (0.0, -10.0),
        (5.0, -10.0),
        (5.0, 10.0),
    )
    CLEANING: ClassVar[str] = "taken out and hosed"

    kind: Literal["matting"] = "matting"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.12,
            "depth": 0.05,
            "void": 0.93,
            "fibre": 0.00015,
            "cut": 6e-05,
            "holds_coarse": 0.4,
            "holds_fine": 0.1,
        }


MODEL = MattingSheet
