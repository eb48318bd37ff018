"""The state a plan repeats: cycles that repeat, levels that swing within the same bounds."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.plan.model import Plan
from bathys.simulation.doings import Doings, always
from bathys.simulation.result import Moment, SimulationResult
from bathys.simulation.valve_clocks import simulation_of

__all__ = ["PeriodicState", "SiphonCycles", "find_periodic_state"]

Floats = NDArray[np.float64]

_FIRST_HOURS, _MOST_HOURS = 6.0, 48.0
_CYCLES = 10  # mean over so many
_STEADY = 0.005  # unequal beds never repeat together; each one's mean does to within this
_STILL = 5e-4  # [m]


@dataclass(frozen=True, slots=True)
class SiphonCycles:
    """What one siphon does once it repeats itself.

    Attributes
    ----------
    siphon : str
        Its id
    starts, breaks, hangs : int
        How often, over the time counted
    period : float or None
        Mean time from start to start, [s]
    shortest, longest : float or None
        Of those times, [s]
    fill_time, drain_time : float or None
        Mean time from break to start and from start to break, [s]
    exchanged : float or None
        Water it carries each time, [m³]
    """

    siphon: str
    starts: int
    breaks: int
    hangs: int
    period: float | None = None
    shortest: float | None = None
    longest: float | None = None
    fill_time: float | None = None
    drain_time: float | None = None
    exchanged: float | None = None

    @property
    def wet_share(self) -> float | None:
        """Share of the time the siphon does not run [-]."""
        if self.fill_time is None or self.drain_time is None:
            return None
        return self.fill_time / (self.fill_time + self.drain_time)


@dataclass(frozen=True)
class PeriodicState:
    """A plan followed from rest until it repeats itself.

    Attributes
    ----------
    through : SimulationResult
        All of it, from rest
    since : float
        From then on it is taken to repeat, [s]
    cycles : tuple of SiphonCycles
        Of every siphon with a tail
    is_steady : bool
        Whether every siphon's mean cycle had settled
    """

    through: SimulationResult
    since: float
    cycles: tuple[SiphonCycles, ...]
    is_steady: bool

    def levels(self, node: str) -> Floats:
        """Level of one node once it repeats [m]."""
        level = self.through.level(node)
        return np.asarray(level[self.through.times >= self.since])

    def starts(self) -> tuple[Moment, ...]:
        """Moments just after a siphon started, once it repeats."""
        return tuple(m for m in self.through.starts if m.time >= self.since)


def find_periodic_state(
    plan: Plan, doings: Doings | None = None, is_wanted: Callable[[float], bool] = always
) -> PeriodicState:
    """Follow a plan from rest until each siphon's mean cycle is steady, or for two days.

    Parameters
    ----------
    plan : Plan
        The plan
    doings : Doings, optional
        What is done to it
    is_wanted : callable
        Asked now and then whether to go on

    Returns
    -------
    PeriodicState
        What it does from rest, and its periodic state

    Raises
    ------
    NotSimulated
        If the layout is not followed
    NotSolved
        If a balance of the pumped runs does not settle
    """
    turns = [p.clock.turn for p in plan.pumps if p.clock is not None]
    turns += [r.opens_by.turn for r in plan.runs if r.opens_by is not None]
    run = simulation_of(plan, doings)
    hours = min(max([_FIRST_HOURS, *(2.0 * t / 3600.0 for t in turns)]), _MOST_HOURS)
    while True:
        found = run.follow(hours, is_wanted)
        since = 0.5 * hours * 3600.0
        is_steady = _repeats(found, since)
        if is_steady or hours >= _MOST_HOURS:
            rows = tuple(
                _cycles(found, s.id, since) for s in plan.siphons if plan.run_of(s) is not None
            )
            return PeriodicState(found, since, rows, is_steady)
        hours *= 2.0


def _repeats(found: SimulationResult, since: float) -> bool:
    """Whether the means over the last cycles and over those before them agree, and what has no
    cycle stands still or swings as before."""
    for siphon in found.plan.siphons:
        periods = np.diff([t for t in found.times_of("starts", siphon.id) if t >= since])
        if not len(periods):
            continue
        if len(periods) < 2 * _CYCLES:
            return False
        one, two = periods[-2 * _CYCLES : -_CYCLES].mean(), periods[-_CYCLES:].mean()
        if abs(two - one) > _STEADY * one:
            return False
    dynamic = found.levels[found.times >= since]
    half = len(dynamic) // 2
    moved = np.abs(dynamic[:half].mean(axis=0) - dynamic[half:].mean(axis=0))
    swings = dynamic.max(axis=0) - dynamic.min(axis=0)
    return bool(np.all(moved < np.maximum(_STILL, 0.1 * swings)))


def _cycles(found: SimulationResult, siphon: str, since: float) -> SiphonCycles:
    starts = np.array([t for t in found.times_of("starts", siphon) if t >= since])
    breaks = np.array([t for t in found.times_of("breaks", siphon) if t >= since])
    hangs = len([t for t in found.times_of("hangs", siphon) if t >= since])
    if len(starts) < 2 or len(breaks) < 1:
        return SiphonCycles(siphon, len(starts), len(breaks), hangs)
    periods = np.diff(starts)
    ends = [breaks[breaks > t][0] - t for t in starts if np.any(breaks > t)]
    drain = float(np.mean(ends))
    tail = found.plan.run_of(found.plan.part(siphon))
    count = len(found.times_of("starts", siphon))
    volume = found.carried[tail.id] / count if tail is not None else None
    mean = float(periods.mean())
    return SiphonCycles(
        siphon,
        len(starts),
        len(breaks),
        hangs,
        mean,
        float(periods.min()),
        float(periods.max()),
        mean - drain,
        drain,
        volume,
    )
