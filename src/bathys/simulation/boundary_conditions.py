"""Water to and from outside: rain, evaporation, float valves and transfers."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.plan.model import Plan
from bathys.plan.supply import Move, Visit
from bathys.plan.vessel import Vessel
from bathys.simulation.compiled import Weathered

__all__ = [
    "DRY_AIR",
    "STORM_LASTS",
    "BoundaryConditions",
    "Rain",
    "Weather",
    "is_under_way",
    "open_area",
    "scheduled_swing",
]

STORM_LASTS = 3600.0
"""A storm lasts an hour [s]."""


@dataclass(frozen=True, slots=True)
class Rain:
    """A storm.

    Attributes
    ----------
    begins, lasts : float
        When and how long, [s]
    depth : float
        How much falls, [m]
    """

    begins: float
    lasts: float
    depth: float


@dataclass(frozen=True, slots=True)
class Weather:
    """Weather over a plan.

    Attributes
    ----------
    evaporation : float
        What leaves each square metre of open water, [m/s]
    rain : Rain or None
        A storm
    """

    evaporation: float = 0.0
    rain: Rain | None = None


DRY_AIR = Weather()
"""Neither rain nor evaporation."""


def open_area(vessel: Vessel) -> float:
    """Water of a vessel open to the air [m²]; media with a dry top count as none.

    Parameters
    ----------
    vessel : Vessel
        The vessel

    Returns
    -------
    float
        The area, [m²]
    """
    return 0.0 if vessel.media is not None else vessel.shape.footprint * (1.0 - vessel.covered)


class BoundaryConditions:
    """Weather, float valves and transfers of one plan.

    Parameters
    ----------
    plan : Plan
        The plan
    weather : Weather
        What falls and what dries
    place : mapping
        Number of each vessel among the nodes
    sink : int
        Number of the sink that stands for the outside
    """

    def __init__(
        self, plan: Plan, weather: Weather, place: Mapping[str, int], sink: int, count: int
    ) -> None:
        self.plan, self.weather, self.place, self.sink, self.count = (
            plan,
            weather,
            place,
            sink,
            count,
        )
        self._known: tuple[float, float, Weathered] | None = None

    def next_edge(self, time: float) -> float:
        """The next time at which rain or a transfer begins or ends [s]."""
        edges = [np.inf]
        if self.weather.rain is not None:
            rain = self.weather.rain
            edges += [t for t in (rain.begins, rain.begins + rain.lasts) if t > time + 1e-6]
        edges += [_next_turn(move, time) for move in self.plan.moves]
        for top_up in self.plan.top_ups:
            if top_up.visit is not None:
                edges.append(_next_visit(top_up.visit, time))
        return float(min(edges))

    def arrays(self, time: float) -> Weathered:
        """Water to and from outside [m³/s] at a time [s], as the compiled core takes it."""
        if self._known is None or not self._known[0] <= time < self._known[1] - 1e-6:
            self._known = (time, self.next_edge(time), self._arrays(time))
        return self._known[2]

    def _arrays(self, time: float) -> Weathered:
        gains, losses = np.zeros(self.count), np.zeros(self.count)
        rain = self.weather.rain
        falls = rain is not None and rain.begins <= time + 1e-6 < rain.begins + rain.lasts
        for vessel in self.plan.vessels:
            node = self.place[vessel.id]
            losses[node] = self.weather.evaporation * open_area(vessel)
            if rain is not None and falls:
                gains[node] = rain.depth / rain.lasts * vessel.catches_rain
        moved: list[tuple[int, int, float]] = []
        for move in self.plan.moves:
            if not is_under_way(move, time):
                continue
            if move.source is None:
                gains[self.place[move.target or ""]] += move.flow
            else:
                end = self.sink if move.target is None else self.place[move.target]
                moved.append((self.place[move.source], end, move.flow))
        tops = [
            (
                self.place[t.stands_in],
                self.plan.vessel(t.stands_in).floor_height + t.level,
                t.lets_in,
                -1 if t.draws_from is None else self.place[t.draws_from],
            )
            for t in self.plan.top_ups
            if t.visit is None or _is_there(t.visit, time)
        ]
        return Weathered(
            gains,
            losses,
            np.array([m[0] for m in moved], dtype=np.int64),
            np.array([m[1] for m in moved], dtype=np.int64),
            np.array([m[2] for m in moved]),
            np.array([t[0] for t in tops], dtype=np.int64),
            np.array([t[1] for t in tops]),
            np.array([t[2] for t in tops]),
            np.array([t[3] for t in tops], dtype=np.int64),
        )


def _into(turns: Move | Visit, time: float) -> float:
    """Time since a turn last began [s]; below 0 before its first."""
    since = time + 1e-6 - turns.at
    return since if since < 0.0 else since % turns.every


def _is_there(visit: Visit, time: float) -> bool:
    return 0.0 <= _into(visit, time) < visit.lasts


def _next_visit(visit: Visit, time: float) -> float:
    """When somebody next comes or goes [s]."""
    into = _into(visit, time)
    if into < 0.0:
        return visit.at
    return time + 1e-6 + (visit.lasts if into < visit.lasts else visit.every) - into


def is_under_way(move: Move, time: float) -> bool:
    """Whether a move is going on at a time [s].

    Parameters
    ----------
    move : Move
        What is moved
    time : float
        A time since the beginning, [s]

    Returns
    -------
    bool
        Whether it does
    """
    return 0.0 <= _into(move, time) < move.lasts


def _next_turn(move: Move, time: float) -> float:
    into = _into(move, time)
    if into < 0.0:
        return move.at
    return time + 1e-6 + (move.lasts if into < move.lasts else move.every) - into


def scheduled_swing(plan: Plan, loop: Collection[str]) -> float:
    """The most by which transfers raise and lower the water of some vessels between their turns
    [m³]: over two of the longest turns, less what they bring or take for good.

    Parameters
    ----------
    plan : Plan
        The plan
    loop : collection of str
        Ids of the vessels

    Returns
    -------
    float
        Water, [m³]
    """
    own = [(t, float(t.target in loop) - float(t.source in loop)) for t in plan.moves]
    own = [(t, sign) for t, sign in own if sign]
    if not own:
        return 0.0
    lasts = 2.0 * max(t.every for t, _ in own)
    edges = {0.0, lasts}
    for move, _ in own:
        begins = np.arange(move.at % move.every, lasts, move.every)
        edges |= set(begins.tolist()) | set((begins + move.lasts).tolist())
    times = np.array(sorted(e for e in edges if e <= lasts))
    net = np.sum([sign * _moved(move, times) for move, sign in own], axis=0)
    drift = net[-1] * times / lasts
    return float(np.ptp(net - drift))


def _moved(move: Move, times: NDArray[np.float64]) -> NDArray[np.float64]:
    """What has been moved by each time, its first turn on the first day [m³]."""
    since = times - move.at % move.every
    turns = np.floor(since / move.every)
    now = np.clip((since - turns * move.every) * move.flow, 0.0, move.volume)
    return np.where(since < 0.0, 0.0, turns * move.volume + now)
