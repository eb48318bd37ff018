"""What every curve of a pump has, whatever its kind."""

from abc import abstractmethod
from typing import Any, ClassVar

from bathys.physics.pump_curve import PumpCurve
from bathys.plan.base import Kind

__all__ = ["Curve"]


class Curve(Kind):
    """Head of a pump against the flow through it, as it was told."""

    GROUP: ClassVar[str] = "curves"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    TOLD: ClassVar[str]
    """What its greatest flow is called, with the slot ``{label:flow}``."""

    @property
    @abstractmethod
    def law(self) -> PumpCurve:
        """The curve of the pump new and at full speed."""

    @property
    @abstractmethod
    def most_flow(self) -> float:
        """Greatest flow it tells of [m³/s]."""

    @classmethod
    @abstractmethod
    def instead_of(cls, old: PumpCurve) -> dict[str, Any]:
        """One of this kind that does about the same as another, as plain data."""

    def power_at(self, flow: float) -> float | None:
        """Watts drawn at a flow [m³/s], where the curve tells of them."""
        return None
