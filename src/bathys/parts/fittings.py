"""Loss coefficients of fittings, each on the velocity in its own bore.

A new kind is one line of ``FITTINGS``.
"""

from collections.abc import Callable
from dataclasses import dataclass

from fluids import ft_Crane
from fluids.fittings import K_foot_valve_Crane, K_swing_check_valve_Crane

__all__ = ["EXIT_LOSS", "FITTINGS", "STOPPED_PUMP_LOSS", "FittingKind"]

EXIT_LOSS = 1.0
"""K of a pipe's end, free or drowned: the jet's velocity head is lost once (Crane TP-410)."""

STOPPED_PUMP_LOSS = 4.0
"""K of a stopped pump on the riser's bore (assumed)."""


@dataclass(frozen=True, slots=True)
class FittingKind:
    """A kind of fitting.

    Attributes
    ----------
    name : str
        Its name in the trade
    loss : callable
        K [-] from the bore [m]
    source : str
        Where the coefficient comes from
    holds_back : bool
        Whether it stops water from running backwards
    """

    name: str
    loss: Callable[[float], float]
    source: str
    holds_back: bool = False


def _equivalent_length(diameters: float) -> Callable[[float], float]:
    """K = (L/D) f_T, Crane's way of scaling a fitting with its size."""
    return lambda bore: diameters * float(ft_Crane(bore))


_CRANE = "Crane TP-410 (2018), p. A-27 ff. (memory)"

FITTINGS: dict[str, FittingKind] = {
    "elbow_90": FittingKind("elbow 90°, short", _equivalent_length(30.0), _CRANE),
    "elbow_90_long": FittingKind("elbow 90°, long", _equivalent_length(16.0), _CRANE),
    "elbow_45": FittingKind("elbow 45°", _equivalent_length(16.0), _CRANE),
    "tee_run": FittingKind("tee, straight through", _equivalent_length(20.0), _CRANE),
    "tee_branch": FittingKind("tee, round the corner", _equivalent_length(60.0), _CRANE),
    "union": FittingKind("union", lambda _bore: 0.08, "common practice"),
    "swing_check": FittingKind(
        "check valve, swing", lambda bore: float(K_swing_check_valve_Crane(bore)), _CRANE, True
    ),
    "foot_valve": FittingKind(
        "foot valve with strainer", lambda bore: float(K_foot_valve_Crane(bore)), _CRANE, True
    ),
}
