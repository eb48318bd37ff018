"""A closed canister with pads, on a pumped run."""

from typing import Any, ClassVar, Literal

from bathys.components.filters.pad import Pad

__all__ = ["MODEL", "CanisterFilter"]


class CanisterFilter(Pad):
    """A closed canister with pads, on a pumped run."""

    CHOICE: ClassVar[str] = "a canister on the run"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "on"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-7.0, -10.0),
        (7.0, -10.0),
        (7.0, 10.0),
        (-7.0, 10.0),
        (-7.0, -10.0),
        (-7.0, -4.0),
        (7.0, -4.0),
    )
    CLEANING: ClassVar[str] = "opened and its pads hosed"

    kind: Literal["canister"] = "canister"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.05,
            "depth": 0.12,
            "void": 0.95,
            "fibre": 0.00012,
            "cut": 6e-05,
            "holds_coarse": 0.7,
            "holds_fine": 0.2,
        }


MODEL = CanisterFilter
