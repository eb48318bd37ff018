"""An elbow turned up at the end of a run."""

from typing import Any, ClassVar, Literal

from bathys.parts.fittings import EXIT_LOSS, FITTINGS
from bathys.plan.end import End, EndLoss

__all__ = ["MODEL", "TurnedUp"]


class TurnedUp(End):
    """An elbow turned up, so that the water wells over its rim and trickles down. The run's end is
    the mouth of the elbow."""

    CHOICE: ClassVar[str] = "an elbow turned up (trickle)"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = ((-7.0, 2.0), (0.0, 2.0), (0.0, -8.0))

    kind: Literal["turned_up"] = "turned_up"

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        return {}

    def losses(self, bore: float) -> tuple[EndLoss, ...]:
        elbow = FITTINGS["elbow_90"].loss(bore, bore)
        return (
            ("elbow turned up", bore, elbow),
            ("water welling over its rim", bore, EXIT_LOSS),
        )


MODEL = TurnedUp
