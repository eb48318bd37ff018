"""Flood and drain by the clock: how long to run, and how many holes to trial."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.physics import GRAVITY, area_of
from bathys.physics.openings import ORIFICE_COEFFICIENT
from bathys.vessels import Storage

__all__ = ["HOLE_DIAMETERS", "TimerAsk", "TimerChoice", "TimerDesign", "design_timer"]

Floats = NDArray[np.float64]

HOLE_DIAMETERS = (0.004, 0.005, 0.006, 0.008, 0.010, 0.012)
"""Drills most people have [m]; under 6 mm they clog soon (common practice)."""

_CLOGS = 0.006
_MOST_HOLES = 16
_DRAINED = 0.005  # drained to so far over the holes' centres [m]
_PIECES = 200


@dataclass(frozen=True, slots=True)
class TimerAsk:
    """What a timed bed has to do.

    Attributes
    ----------
    inflow : float
        While the pump runs, [m³/s]
    rim_height, hole_height : float
        Of the standpipe, over the bed's floor, [m]
    fill : float
        Fill within so long, [s]
    dry : float
        Least time drained in each round, [s]
    round_time : float
        From start to start, [s]
    soak : float
        Time at the rim, [s]
    """

    inflow: float
    rim_height: float
    hole_height: float = 0.02
    fill: float = 600.0
    dry: float = 900.0
    round_time: float = 3600.0
    soak: float = 120.0


@dataclass(frozen=True, slots=True)
class TimerChoice:
    """Holes and times that do it.

    Attributes
    ----------
    holes : int
        How many
    diameter : float
        Of each, [m]
    fill_time, drain_time, dry_time : float
        To the rim, back to the holes, and left dry, [s]
    on, off : float
        What to set the timer to, in whole minutes, [s]
    """

    holes: int
    diameter: float
    fill_time: float
    drain_time: float
    dry_time: float
    on: float
    off: float


@dataclass(frozen=True, slots=True)
class TimerDesign:
    """What would do.

    Attributes
    ----------
    choices : tuple of TimerChoice
        Fewest and largest holes first
    refusal : str
        Why there is none, with slots
    figures : dict of float
        For the slots
    """

    choices: tuple[TimerChoice, ...]
    refusal: str = ""
    figures: dict[str, float] | None = None


def hole_flow(area: float, head: Floats | float) -> Floats:
    """Flow through holes [m³/s]: Cd a √(2 g h) (Torricelli; Cd as everywhere)."""
    return np.asarray(ORIFICE_COEFFICIENT * area * np.sqrt(2.0 * GRAVITY * np.maximum(head, 0.0)))


def time_to_fill(storage: Storage, ask: TimerAsk, area: float) -> float:
    """From drained to the rim, holes open [s]; infinite if they carry it all."""
    levels = np.linspace(ask.hole_height + _DRAINED, ask.rim_height, _PIECES)
    middle = 0.5 * (levels[1:] + levels[:-1])
    net = ask.inflow - hole_flow(area, middle - ask.hole_height)
    if np.any(net <= 0.0):
        return float("inf")
    return float(np.sum(np.diff(storage.volume(levels)) / net))


def time_to_drain(storage: Storage, ask: TimerAsk, area: float) -> float:
    """From the rim to drained, the pump off [s]."""
    # Crowded towards the holes, where it takes longest: the time goes as a square root.
    share = np.linspace(0.0, 1.0, _PIECES) ** 2
    levels = ask.hole_height + _DRAINED + (ask.rim_height - ask.hole_height - _DRAINED) * share
    middle = 0.5 * (levels[1:] + levels[:-1])
    flow = hole_flow(area, middle - ask.hole_height)
    return float(np.sum(np.diff(storage.volume(levels)) / flow))


def design_timer(storage: Storage, ask: TimerAsk) -> TimerDesign:
    """On and off minutes, and the holes, for wanted times.

    Parameters
    ----------
    storage : Storage
        The bed's
    ask : TimerAsk
        What is wanted

    Returns
    -------
    TimerDesign
        Choices, or why there is none
    """
    least = time_to_fill(storage, ask, 0.0)
    if least > ask.fill:
        needed = float(storage.volume(ask.rim_height) - storage.volume(ask.hole_height)) / ask.fill
        return TimerDesign(
            (),
            "{inflow:flow} fills the bed in {least:time} at best, even with no "
            "holes; {needed:flow} would do it in {fill:time}.",
            {"inflow": ask.inflow, "least": least, "needed": needed, "fill": ask.fill},
        )
    found, quickest = [], float("inf")
    for diameter in HOLE_DIAMETERS:
        for holes in range(1, _MOST_HOLES + 1):
            choice = _choice(storage, ask, holes, diameter)
            if choice is None:
                continue
            quickest = min(quickest, choice.on + choice.drain_time + ask.dry)
            if choice.dry_time >= ask.dry:
                found.append(choice)
                break  # more of the same size only drain faster and fill more slowly
    found.sort(key=lambda c: (c.diameter < _CLOGS, c.holes, c.diameter))
    if found:
        return TimerDesign(tuple(found))
    if quickest < float("inf"):
        return TimerDesign(
            (),
            "Draining takes too long for a round of {round:time}; one of {quickest:time} would do.",
            {"round": ask.round_time, "quickest": quickest},
        )
    return TimerDesign(
        (),
        "Holes that drain it in time drain away what should fill it; send more "
        "than {inflow:flow}, or allow more time to fill.",
        {"inflow": ask.inflow},
    )


def _choice(storage: Storage, ask: TimerAsk, holes: int, diameter: float) -> TimerChoice | None:
    area = holes * area_of(diameter)
    fill, drain = time_to_fill(storage, ask, area), time_to_drain(storage, ask, area)
    if fill > ask.fill:
        return None
    on = 60.0 * np.ceil((fill + ask.soak) / 60.0)
    off = ask.round_time - on
    if off <= 0.0:
        return None
    return TimerChoice(holes, diameter, fill, drain, float(off - drain), float(on), float(off))
