"""Loss coefficients of fittings, each on the velocity in the run's own bore.

A new kind is one line of ``FITTINGS``.
"""

from collections.abc import Callable
from dataclasses import dataclass

from fluids import ft_Crane
from fluids.fittings import (
    K_foot_valve_Crane,
    K_lift_check_valve_Crane,
    K_swing_check_valve_Crane,
)

from bathys.physics.bore_change import contraction_loss, expansion_loss

__all__ = [
    "ANNULUS_ENTRY_LOSS",
    "EXIT_LOSS",
    "FITTINGS",
    "JUNCTIONS",
    "MOUTHS",
    "STOPPED_PUMP_LOSS",
    "FittingKind",
    "JunctionKind",
    "diffuser_loss",
]

ANNULUS_ENTRY_LOSS = 0.5
"""K of a flush entrance between two pipes, on the area between them (Crane TP-410, memory)."""


EXIT_LOSS = 1.0
"""K of a pipe's end, free or drowned: the jet's velocity head is lost once (Crane TP-410)."""

STOPPED_PUMP_LOSS = 4.0
"""K of a stopped pump on the riser's bore (assumed)."""

_BARB_SHARE = 0.8  # bore of a barbed fitting over that of its hose (common practice)

MOUTHS = {"flush": 0.5, "inward": 0.78, "rounded": 0.05}
"""K of a pipe's mouth in a vessel's wall (Crane TP-410, memory)."""


@dataclass(frozen=True, slots=True)
class FittingKind:
    """A kind of fitting.

    Attributes
    ----------
    name : str
        Its name in the trade
    loss : callable
        K [-] from the run's bore and the fitting's other bore [m], which most ignore
    source : str
        Where the coefficient comes from
    holds_back : bool
        Whether it stops water from running backwards
    changes_bore : bool
        Whether it needs another bore to be named
    has_place : bool
        Whether it is told where on the run it stands
    """

    name: str
    loss: Callable[[float, float], float]
    source: str
    holds_back: bool = False
    changes_bore: bool = False
    has_place: bool = False


@dataclass(frozen=True, slots=True)
class JunctionKind:
    """A kind of junction, as multiples of Crane's fully turbulent friction factor.

    Attributes
    ----------
    name : str
        Its name in the trade
    straight, branch : float
        L/D of the leg straight on, and of any other leg but the common one, [-]
    source : str
        Where they come from
    is_end : bool
        Whether it lies outside, so that water that arrives there leaves the system
    """

    name: str
    straight: float
    branch: float
    source: str
    is_end: bool = False


def _equivalent_length(diameters: float) -> Callable[[float, float], float]:
    """K = (L/D) f_T, Crane's way of scaling a fitting with its size."""
    return lambda bore, _other: diameters * float(ft_Crane(bore))


def _barb(bore: float, _other: float) -> float:
    """In and out of a barb, on the hose's bore."""
    barb = _BARB_SHARE * bore
    return (contraction_loss(barb, bore) + expansion_loss(barb, bore)) * (bore / barb) ** 4


def _into_the_run(bore: float, other: float) -> float:
    """Out of another bore into the run's, on the run's bore: a narrowing out of a wider one, a
    sudden widening out of a narrower one."""
    if other >= bore:
        return contraction_loss(bore, other)
    return expansion_loss(other, bore) * (bore / other) ** 4


def _out_of_the_run(bore: float, other: float) -> float:
    """Out of the run into another bore, on the run's bore: a sudden widening into a wider one, a
    narrowing into a narrower one."""
    if other >= bore:
        return expansion_loss(bore, other)
    return contraction_loss(other, bore) * (bore / other) ** 4


def diffuser_loss(bore: float, mouth: float) -> float:
    """What a slow widening loses: a share of what a sudden one does.

    Parameters
    ----------
    bore : float
        Inside diameter of the pipe, [m]
    mouth : float
        Inside diameter of its wide end, [m]

    Returns
    -------
    float
        K on the pipe's bore, [-]

    References
    ----------
    Crane TP-410, K = 2.6 sin(θ/2) (1 − β²)², at a whole angle of 14° (memory).
    """
    return _SLOW_WIDENING * expansion_loss(bore, mouth)


_SLOW_WIDENING = 0.32  # 2.6 sin 7° (Crane TP-410, memory)
_CRANE = "Crane TP-410 (2018), p. A-27 ff. (memory)"
_BORDA = "Borda–Carnot and Crane TP-410 (memory)"

FITTINGS: dict[str, FittingKind] = {
    "elbow_90": FittingKind("elbow 90°, short", _equivalent_length(30.0), _CRANE),
    "elbow_90_long": FittingKind("elbow 90°, long", _equivalent_length(16.0), _CRANE),
    "elbow_45": FittingKind("elbow 45°", _equivalent_length(16.0), _CRANE),
    "tee_run": FittingKind("tee, straight through", _equivalent_length(20.0), _CRANE),
    "tee_branch": FittingKind("tee, round the corner", _equivalent_length(60.0), _CRANE),
    "clean_out": FittingKind(
        "clean-out",
        _equivalent_length(20.0),
        f"{_CRANE}, as a tee straight through",
        has_place=True,
    ),
    "union": FittingKind("union", lambda _bore, _other: 0.08, "common practice", has_place=True),
    "barb": FittingKind("hose barb", _barb, f"{_BORDA}; a barb's bore is 0.8 of its hose"),
    "reducer": FittingKind("reducer, from", _into_the_run, _BORDA, changes_bore=True),
    "expander": FittingKind("expander, to", _out_of_the_run, _BORDA, changes_bore=True),
    "swing_check": FittingKind(
        "check valve, swing",
        lambda bore, _other: float(K_swing_check_valve_Crane(bore)),
        _CRANE,
        holds_back=True,
        has_place=True,
    ),
    "spring_check": FittingKind(
        "check valve, spring",
        lambda bore, _other: float(K_lift_check_valve_Crane(bore, bore, angled=True)),
        f"{_CRANE}, as an angled lift check",
        holds_back=True,
        has_place=True,
    ),
    "foot_valve": FittingKind(
        "foot valve with strainer",
        lambda bore, _other: float(K_foot_valve_Crane(bore)),
        _CRANE,
        holds_back=True,
        has_place=True,
    ),
}

JUNCTIONS: dict[str, JunctionKind] = {
    "tee": JunctionKind("tee", 20.0, 60.0, _CRANE),
    "wye": JunctionKind("wye, 45°", 20.0, 30.0, "assumed, half of a tee's branch"),
    "plain": JunctionKind("plain joint", 0.0, 0.0, "none but the velocity head of the drain"),
    "outfall": JunctionKind("outfall", 0.0, 0.0, "a free end", is_end=True),
}
"""Kinds a plan's junctions may be."""
