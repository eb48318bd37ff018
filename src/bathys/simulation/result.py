"""What a plan did through time."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bathys.plan.model import Plan

__all__ = ["Event", "EventKind", "Moment", "PowerCut", "SimulationResult", "without_brief_hangs"]

Floats = NDArray[np.float64]
EventKind = Literal[
    "pump_on",
    "pump_off",
    "starts",
    "breaks",
    "hangs",
    "spills",
    "spills_no_more",
    "air",
    "water",
    "power_off",
    "power_on",
    "rain",
    "rain_ends",
    "transfer",
    "transfer_ends",
    "valve_opens",
    "valve_shuts",
]


@dataclass(frozen=True, slots=True)
class Event:
    """Something that happened.

    Attributes
    ----------
    time : float
        From the beginning, [s]
    kind : str
        What happened
    place : str
        Id of the part
    """

    time: float
    kind: EventKind
    place: str


@dataclass(frozen=True, slots=True)
class PowerCut:
    """A power cut.

    Attributes
    ----------
    begins, lasts : float
        When and how long, [s]
    """

    begins: float
    lasts: float


@dataclass(frozen=True, slots=True)
class Moment:
    """Everything that a plan's future hangs on, at one time.

    Attributes
    ----------
    time : float
        From the beginning, [s]
    volumes : mapping
        Water of each vessel and gravity junction, [m³]
    modes : mapping
        State of each siphon: spilling, running or hanging
    switched_on : mapping
        Whether each pump's own switch is on
    piped : mapping
        Water that fills the runs of pumps, by the first pump of those that share them, [m³]
    """

    time: float
    volumes: Mapping[str, float]
    modes: Mapping[str, int]
    switched_on: Mapping[str, bool]
    piped: Mapping[str, float]


@dataclass(frozen=True)
class SimulationResult:
    """What happened.

    Attributes
    ----------
    plan : Plan
        The plan
    nodes : tuple of str
        Vessels and gravity junctions, in the order of ``levels``
    times : array
        Of the samples, shape (samples,), [s]
    levels : array
        Over the datum, shape (samples, nodes), [m]
    events : tuple of Event
        In the order of time
    starts : tuple of Moment
        Just after each start of a siphon, the last few hundred
    end : Moment
        Where it ended
    spills : dict of float
        Water over the rim of each vessel that ran over, [m³]
    supplied : float
        Water from outside less water that left, rims apart, [m³]
    carried : dict of float
        What each run carried from its start to its end, and what each outlet let in, [m³]
    lost : float
        Water that the arithmetic lost or made, over all of it, [-]
    running, dry : dict of float
        Time each pump ran, and ran without water at its inlet, [s]
    steps : int
        Steps taken
    cut_short : str
        Why it ends before it should, as a sentence; empty if it does not
    """

    plan: Plan
    nodes: tuple[str, ...]
    times: Floats
    levels: Floats
    events: tuple[Event, ...]
    starts: tuple[Moment, ...]
    end: Moment
    spills: dict[str, float]
    supplied: float
    carried: dict[str, float]
    lost: float
    running: dict[str, float]
    dry: dict[str, float]
    steps: int
    cut_short: str = ""

    @property
    def spilled(self) -> float:
        """Water over any rim [m³]."""
        return sum(self.spills.values())

    def level(self, node: str) -> Floats:
        """Level of one node at every sample [m]."""
        return np.asarray(self.levels[:, self.nodes.index(node)])

    def times_of(self, kind: EventKind, place: str) -> list[float]:
        """When something happened at a place [s]."""
        return [e.time for e in self.events if e.kind == kind and e.place == place]

    def cycle(self, siphon: str) -> float | None:
        """Middle one of the times between its last starts, at most ten cycles, so that a power
        cut among them does not count [s]; none if it has not started twice."""
        starts = self.times_of("starts", siphon)[-11:]
        return float(np.median(np.diff(starts))) if len(starts) > 1 else None


_BRIEF = 60.0  # a hang shorter than this is part of the break [s]


def without_brief_hangs(events: Sequence[Event], until: float) -> tuple[Event, ...]:
    """Events without the hangs that end in a break a moment later: the siphon gurgles as it
    breaks. One that the end of the run cuts off after so short a time is not told either.

    Parameters
    ----------
    events : sequence of Event
        All that happened
    until : float
        When the run ended, [s]

    Returns
    -------
    tuple of Event
        What is told
    """
    breaks = {
        e.place: [x.time for x in events if x.kind == "breaks" and x.place == e.place]
        for e in events
        if e.kind == "hangs"
    }

    def is_brief(hang: Event) -> bool:
        ends = [t for t in (*breaks[hang.place], until) if t >= hang.time]
        return min(ends, default=until) - hang.time < _BRIEF

    return tuple(e for e in events if e.kind != "hangs" or not is_brief(e))
