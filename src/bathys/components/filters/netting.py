"""Bird netting or the like, balled up in a chamber before its outlet."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "NettingFill"]


class NettingFill(Pad):
    """Bird netting or the like, balled up in a chamber before its outlet."""

    CHOICE: ClassVar[str] = "netting before the outlet"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-8.0, -8.0),
        (8.0, 8.0),
        (8.0, 0.0),
        (-8.0, 0.0),
        (-8.0, 8.0),
        (8.0, -8.0),
    )
    CLEANING: ClassVar[str] = "taken out and hosed"

    kind: Literal["netting"] = "netting"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.12,
            "depth": 0.4,
            "void": 0.95,
            "fibre": 0.0005,
            "cut": 6e-05,
            "holds_coarse": 0.3,
            "holds_fine": 0.05,
        }


MODEL = NettingFill
