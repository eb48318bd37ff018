"""A plan through time: pumps by clock and float, siphons that start and break, power cuts."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bathys.network.layout import float_switch_of, layout_of
from bathys.physics.water import water_at
from bathys.plan.model import Plan, Timer
from bathys.simulation.kernel import HANGS, RUNS, SPILLS, advance, flows_at
from bathys.simulation.system import Latch, NotSimulated, System, compile_system

__all__ = ["Event", "EventKind", "PowerCut", "Through", "simulate"]

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
]

LONGEST = 31 * 86400.0
"""Longest time followed in one go [s]."""

_TOLERANCE = 2e-5  # error of a step [m³]
_MOST_EVENTS = 20_000
_MOST_TABLES = 600  # of pumped flows; more is a return that flutters
_HANG_LOOKS = 30.0  # how often a hanging siphon's inflow is looked at [s]
_RETABLE = 0.01  # change of a drowned return's level that wants new pump flows [m]
_SLACK = 1e-4  # a level this far past a mark has passed it [m]


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


@dataclass(frozen=True)
class Through:
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
    spilled : float
        Water over any rim, [m³]
    lost : float
        Water that the arithmetic lost or made, over all of it, [-]
    running : dict of float
        Time each pump ran, [s]
    steps : int
        Steps taken
    """

    plan: Plan
    nodes: tuple[str, ...]
    times: Floats
    levels: Floats
    events: tuple[Event, ...]
    spilled: float
    lost: float
    running: dict[str, float]
    steps: int

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


@dataclass
class _Watch:
    """A level to be told of when it is passed."""

    node: int
    level: float
    sign: float
    what: str
    place: str


@dataclass
class _State:
    time: float
    volumes: Floats
    modes: dict[str, int]
    switched_on: dict[str, bool]
    powered: bool = True
    over: set[str] = field(default_factory=set)
    dry: set[str] = field(default_factory=set)


class _Run:
    def __init__(self, system: System, cut: PowerCut | None, hours: float, every: float) -> None:
        self.system, self.plan, self.cut = system, system.plan, cut
        self.place = {n: i for i, n in enumerate(system.nodes)}
        self.vessels = system.vessel_arrays()
        self.lines, self.laws = system.line_arrays()
        self.until = hours * 3600.0
        self.every = every
        self.samples = np.zeros((int(self.until / every) + 1, 1 + len(system.nodes)))
        self.filled = self.steps = 0
        self.events: list[Event] = []
        self.running = {p.id: 0.0 for p in self.plan.pumps}
        self.table_levels: dict[str, float] = {}
        self.step = 1.0
        self.latches = {x.id: x for x in system.latches}

    # What the state says.

    def levels(self, state: _State) -> dict[str, float]:
        found: dict[str, float] = {}
        start, marks, held, areas, floors = self.vessels
        for node, i in self.place.items():
            own = slice(start[i], start[i + 1])
            k = max(int(np.searchsorted(held[own], state.volumes[i], side="right")) - 1, 0)
            over = (state.volumes[i] - held[own][k]) / areas[own][k]
            found[node] = float(floors[i] + marks[own][k] + over)
        return found

    def pumps_on(self, state: _State) -> frozenset[str]:
        return frozenset(p.id for p in self.plan.pumps if state.powered and state.switched_on[p.id])

    def _log(self, state: _State, kind: EventKind, place: str) -> None:
        self.events.append(Event(state.time, kind, place))

    # What to watch for.

    def _watches(self, state: _State, levels: Mapping[str, float]) -> Iterator[_Watch]:
        for latch in self.system.latches:
            node = self.place[latch.vessel]
            if state.modes[latch.id] == SPILLS:
                yield _Watch(node, latch.start_level, 1.0, "start", latch.id)
            elif state.modes[latch.id] == RUNS:
                yield _Watch(node, latch.intake_level, -1.0, "intake", latch.id)
        for pump in self.plan.pumps:
            node, floor = self.place[pump.stands_in], self.system.floor(pump.stands_in)
            switch = float_switch_of(pump)
            if switch is not None:
                on = state.switched_on[pump.id]
                height = switch.off_height if on else switch.on_height
                yield _Watch(node, floor + height, -1.0 if on else 1.0, "float", pump.id)
            inlet = floor + pump.inlet_height + 0.005
            is_dry = pump.id in state.dry
            yield _Watch(node, inlet + (0.01 if is_dry else 0.0), 1.0 if is_dry else -1.0,
                         "inlet", pump.id)  # fmt: skip
        for vessel in self.plan.vessels:
            rim = vessel.floor_height + vessel.shape.height
            is_over = vessel.id in state.over
            yield _Watch(self.place[vessel.id], rim + (0.0 if is_over else _SLACK),
                         -1.0 if is_over else 1.0, "rim", vessel.id)  # fmt: skip
        for vessel_id, height in self.system.returns():
            node, level = self.place[vessel_id], self.table_levels.get(vessel_id, -1e9)
            if level <= height:
                yield _Watch(node, height + _RETABLE, 1.0, "return", vessel_id)
            else:
                yield _Watch(node, level + _RETABLE, 1.0, "return", vessel_id)
                yield _Watch(node, max(level - _RETABLE, height - 1e-6), -1.0, "return", vessel_id)

    def _next_edge(self, state: _State) -> float:
        """The next time at which a clock does something."""
        edges = [self.until]
        for pump in self.plan.pumps:
            if isinstance(pump.switch, Timer):
                edges.append(_next_toggle(pump.switch, state.time))
        if self.cut is not None:
            ends = (self.cut.begins, self.cut.begins + self.cut.lasts)
            edges += [e for e in ends if e > state.time + 1e-6]
        if HANGS in state.modes.values():
            edges.append(state.time + _HANG_LOOKS)
        return min(edges)

    # What happens.

    def _by_the_clock(self, state: _State) -> None:
        for pump in self.plan.pumps:
            if isinstance(pump.switch, Timer):
                cycle = pump.switch.on + pump.switch.off
                self._switch(state, pump.id, (state.time + 1e-6) % cycle < pump.switch.on)
        if self.cut is not None:
            begins, ends = self.cut.begins, self.cut.begins + self.cut.lasts
            powered = not begins <= state.time + 1e-6 < ends
            if powered != state.powered:
                state.powered = powered
                self._log(state, "power_on" if powered else "power_off", "")

    def _switch(self, state: _State, pump: str, on: bool) -> None:
        if state.switched_on[pump] != on:
            state.switched_on[pump] = on
            self._log(state, "pump_on" if on else "pump_off", pump)

    def _happened(self, state: _State, watch: _Watch, inflows: Floats, full: Floats) -> None:
        if watch.what == "start":
            state.modes[watch.place] = RUNS
            self._log(state, "starts", watch.place)
        elif watch.what == "intake":
            self._at_intake(state, self.latches[watch.place], inflows, full)
        elif watch.what == "float":
            self._switch(state, watch.place, watch.sign > 0.0)
        elif watch.what == "inlet":
            (state.dry.add if watch.sign < 0.0 else state.dry.discard)(watch.place)
            if watch.place in self.pumps_on(state):
                self._log(state, "air" if watch.sign < 0.0 else "water", watch.place)
        elif watch.what == "rim":
            (state.over.add if watch.sign > 0.0 else state.over.discard)(watch.place)
            self._log(state, "spills" if watch.sign > 0.0 else "spills_no_more", watch.place)
        elif watch.what == "return":
            self.table_levels = {}

    def _at_intake(self, state: _State, latch: Latch, inflows: Floats, full: Floats) -> None:
        number = [x.id for x in self.system.latches].index(latch.id)
        inflow, most = float(inflows[number]), float(full[number])
        if inflow <= latch.break_share * most:
            state.modes[latch.id] = SPILLS
            self._log(state, "breaks", latch.id)
        elif inflow < most and state.modes[latch.id] != HANGS:
            state.modes[latch.id] = HANGS
            self._log(state, "hangs", latch.id)
        elif inflow >= most:
            state.modes[latch.id] = RUNS

    def _flows(self, state: _State, use: tuple[Floats, ...], pumped: tuple[Floats, ...]
               ) -> tuple[Floats, Floats]:  # fmt: skip
        """What each latch's vessel gets, and what the latch passes when full [m³/s]."""
        guess = np.full(len(self.system.lines), 1e-4)
        _, _, _, inflows, _ = flows_at(
            state.volumes, guess, use, self.vessels, self.lines, self.laws, pumped
        )
        modes = np.full(len(self.system.latches), RUNS, dtype=np.int64)
        _, _, flows, _, _ = flows_at(
            state.volumes, guess, (modes, *use[1:]), self.vessels, self.lines, self.laws, pumped
        )
        return inflows, flows[use[1]]

    def first(self) -> _State:
        state = _State(
            0.0, self.system.rest_volumes(), {x.id: SPILLS for x in self.system.latches},
            {p.id: not isinstance(p.switch, Timer) for p in self.plan.pumps},
        )  # fmt: skip
        levels = self.levels(state)
        for pump in self.plan.pumps:
            switch = float_switch_of(pump)
            if switch is not None:
                floor = self.system.floor(pump.stands_in)
                state.switched_on[pump.id] = levels[pump.stands_in] >= floor + switch.on_height
        return state

    def run(self) -> Through:
        state = self.first()
        begun = float(state.volumes.sum())
        pumped: tuple[Floats, ...] = ()
        known: frozenset[str] | None = None
        tables = 0
        for _ in range(_MOST_EVENTS):
            self._by_the_clock(state)
            if state.time >= self.until - 1e-6:
                break
            levels, on = self.levels(state), self.pumps_on(state)
            if not self.table_levels or on != known:
                pumped, known = self.system.pumped_arrays(on, levels), on
                tables += 1
                if tables > _MOST_TABLES:
                    raise NotSimulated(
                        "A return that ends under water goes to and fro between drawing and "
                        "giving; end it above the water, or follow a shorter time."
                    )
                self.table_levels = dict(levels)
            self._advance(state, levels, on, pumped)
        else:
            raise NotSimulated(f"More than {_MOST_EVENTS} things happened; follow a shorter time.")
        total = float(state.volumes.sum())
        return Through(
            self.plan, self.system.nodes, self.samples[: self.filled, 0],
            self.samples[: self.filled, 1:], tuple(self.events), float(state.volumes[-1]),
            abs(total - begun) / max(begun, 1e-9), self.running, self.steps,
        )  # fmt: skip

    def _advance(
        self, state: _State, levels: Mapping[str, float], on: frozenset[str],
        pumped: tuple[Floats, ...],
    ) -> None:  # fmt: skip
        watches = list(self._watches(state, levels))
        use = self.system.latch_arrays(state.modes)
        before = state.time
        volumes, time, self.step, hit, self.filled, steps = advance(
            state.volumes, state.time, float(self._next_edge(state)), self.step, _TOLERANCE,
            np.array([w.node for w in watches], dtype=np.int64),
            np.array([w.level for w in watches]), np.array([w.sign for w in watches]),
            use, self.vessels, self.lines, self.laws, pumped, self.every, self.samples,
            self.filled,
        )  # fmt: skip
        state.volumes, state.time = volumes, float(time)
        self.steps += int(steps)
        for pump in on:
            self.running[pump] += state.time - before
        inflows, full = self._flows(state, use, pumped) if self.latches else (volumes, volumes)
        if hit >= 0:
            # Several marks may be passed in the same breath.
            after = self.levels(state)
            for number, watch in enumerate(watches):
                node = self.system.nodes[watch.node]
                one, two = (watch.sign * (z[node] - watch.level) for z in (levels, after))
                if number == hit or one < 0.0 <= two:
                    self._happened(state, watch, inflows, full)
        for latch in self.system.latches:
            if state.modes[latch.id] == HANGS:
                self._at_intake(state, latch, inflows, full)


def _next_toggle(timer: Timer, time: float) -> float:
    cycle = timer.on + timer.off
    into = (time + 1e-6) % cycle
    begun = time + 1e-6 - into
    return begun + (timer.on if into < timer.on else cycle)


def simulate(plan: Plan, hours: float, cut: PowerCut | None = None, every: float = 10.0) -> Through:
    """Follow a plan through time, from rest: filled, everything drained, pumps just switched on.

    Parameters
    ----------
    plan : Plan
        The plan
    hours : float
        How long, up to 744, [h]
    cut : PowerCut, optional
        A power cut on the way
    every : float
        Time between samples, [s]

    Returns
    -------
    Through
        What happened

    Raises
    ------
    NotSimulated
        If the layout or the time is not followed
    NotSolved
        If a balance of the pumped runs does not settle
    """
    if not 0.0 < hours * 3600.0 <= LONGEST:
        raise NotSimulated("A plan is followed for up to 744 hours, a month, in one go.")
    layout = layout_of(plan, water_at(plan.site.water_temperature))
    return _Run(compile_system(layout), cut, hours, every).run()
