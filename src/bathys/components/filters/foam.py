"""Foam about the intake of a pump or before an outlet."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "IntakeFoam"]


class IntakeFoam(Pad):
    """Foam about the intake of a pump or before an outlet."""

    CHOICE: ClassVar[str] = "foam about the intake"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-9.0, -7.0),
        (9.0, -7.0),
        (9.0, 7.0),
        (-9.0, 7.0),
        (-9.0, -7.0),
        (9.0, 7.0),
    )
    CLEANING: ClassVar[str] = "squeezed out in a bucket"

    kind: Literal["foam"] = "foam"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.04,
            "depth": 0.03,
            "void": 0.97,
            "fibre": 0.0001,
            "cut": 0.0003,
            "holds_coarse": 0.5,
            "holds_fine": 0.05,
        }


MODEL = IntakeFoam
