"""A plan through time: pumps by clock and float, siphons that start and break, power cuts."""

from collections import deque
from collections.abc import Callable, Mapping

import numpy as np
from numpy.typing import NDArray

from bathys.network.drains import BACK
from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan.model import Plan
from bathys.plan.places import part_id
from bathys.simulation.boundary_conditions import BoundaryConditions, is_under_way
from bathys.simulation.compiled import HANGS, RUNS, SPILLS, Compiled, Pumped, Setup
from bathys.simulation.doings import Doings, always
from bathys.simulation.errors import Abandoned, NotSimulated
from bathys.simulation.event_detection import State, Watch, watches_of
from bathys.simulation.first_state import first_state
from bathys.simulation.kernel import WATCH, advance
from bathys.simulation.rates import levels_of
from bathys.simulation.result import (
    Event,
    EventKind,
    Moment,
    SimulationResult,
    without_brief_hangs,
)
from bathys.simulation.system import System, compile_system

__all__ = ["LONGEST", "Simulation"]

Floats = NDArray[np.float64]

LONGEST = 31 * 86400.0
"""Longest time followed in one go [s]."""

_TOLERANCE = 2.5e-5  # error of a step's first-order part [m³]; the step itself is better
_LEAST_SHARE = 2.5e-4  # and at most so much of what the smallest siphon moves
_LOG = 1000  # rows of what siphons did that the compiled core can keep
_WORDS: dict[int, EventKind] = {SPILLS: "breaks", RUNS: "starts", HANGS: "hangs"}
_MOST_EVENTS = 20_000
_MOST_TABLES = 4000  # of pumped flows; more is a return that flutters
_STEPS_AT_ONCE, _STEPS_AN_HOUR = 100_000, 5000.0
"""Most steps: plans of ten beds take some 1,300 an hour; what takes far more flutters."""
_MOST_STARTS = 400  # moments kept
_PAUSE = 6 * 3600.0  # between two questions whether a run is still wanted [s]


class Simulation:
    """A plan followed through time, which may be gone on with.

    Parameters
    ----------
    plan : Plan
        The plan
    doings : Doings
        What is done to it on the way
    every : float
        Time between samples, [s]
    since : Moment, optional
        Where to go on from, in place of rest; its times run on
    system : System, optional
        The same plan compiled, if somebody has it
    """

    def __init__(
        self,
        plan: Plan,
        doings: Doings | None = None,
        every: float = 10.0,
        since: Moment | None = None,
        system: System | None = None,
    ) -> None:
        self.plan, self.doings = plan, doings or Doings()
        if system is None:
            system = compile_system(layout_of(plan, water_at(plan.site.water_temperature)))
        self.system = system
        self.place = {n: i for i, n in enumerate(system.nodes)}
        self.compiled = self._with_what_is_stuck(system.compiled())
        count = len(system.nodes)
        self.outer = BoundaryConditions(
            self.plan, self.doings.weather, self.place, count + system.sinks - 1, count
        )
        self.since = since
        self.begun = since.time if since is not None else 0.0
        self.until = self.begun
        self.every = every
        self.samples = np.zeros((0, 1 + count))
        self.filled = self.steps = self.most_steps = 0
        self.cut_short = ""
        self.events: list[Event] = []
        self.starts: deque[Moment] = deque(maxlen=_MOST_STARTS)
        self.running = {p.id: 0.0 for p in self.plan.pumps}
        # One with no pipe on it stands there and moves nothing, which is told as such.
        self._plumbed = [p for p in self.plan.pumps if self.plan.run_of(p)]
        self._sharing = {p.id for p in self._plumbed if system.pumps.shares_lines(p.id)}
        self.dry = {p.id: 0.0 for p in self.plan.pumps}
        self.carried = np.zeros(len(system.lines) + len(system.pumps.returns))
        self.table_levels: dict[str, float] = {}
        self.pumped: Pumped | None = None
        self.known: frozenset[str] | None = None
        self.tables = 0
        self.step = 1.0
        rows = np.zeros(_LOG)
        self.log = (
            rows,
            np.zeros(_LOG, dtype=np.int64),
            np.zeros(_LOG, dtype=np.int64),
            np.zeros((_LOG, count + system.sinks)),
        )
        self.tolerance = min(_TOLERANCE, _LEAST_SHARE * self._least_swing())
        self.state = first_state(self.plan, self.system, self.since, self.begun, self.levels)
        self.held = float(self.state.volumes.sum())

    def _with_what_is_stuck(self, compiled: Compiled) -> Compiled:
        for number, latch in enumerate(self.system.latches):
            siphon = compiled.siphons[number]
            if latch.id in self.doings.never_starts:
                siphon["starts"] = np.inf
            siphon["never_breaks"] = latch.id in self.doings.never_breaks
        return compiled

    def _least_swing(self) -> float:
        """Water that the smallest siphon moves at a time [m³]."""
        swings = []
        for latch in self.system.latches:
            storage, floor = self.system.storages[latch.vessel], self.system.floor(latch.vessel)
            high, low = latch.start_level - floor, latch.intake_level - floor
            swings.append(storage.volume_at(high) - storage.volume_at(low))
        return min(swings, default=np.inf)

    # What the state says.

    def levels(self, state: State) -> dict[str, float]:
        """Level of each node over the datum [m]."""
        levels = levels_of(state.volumes, self.compiled.nodes, self.compiled.layers)
        return dict(zip(self.system.nodes, levels.tolist(), strict=True))

    def pumps_on(self, state: State) -> frozenset[str]:
        """The pumps that run."""
        return frozenset(
            p.id
            for p in self._plumbed
            if state.powered
            and state.switched_on[p.id]
            and p.id not in self.doings.dead
            and not (p.id in state.dry and p.id in self._sharing)
        )

    def moment(self, state: State) -> Moment:
        """The state as others read it."""
        volumes = dict(zip(self.system.nodes, state.volumes.tolist(), strict=False))
        return Moment(
            state.time, volumes, dict(state.modes), dict(state.switched_on), dict(state.piped)
        )

    def _log(self, state: State, kind: EventKind, place: str) -> None:
        self.events.append(Event(state.time, kind, place))

    def _next_edge(self, state: State) -> float:
        """The next time at which a clock does something."""
        pause = _PAUSE * ((state.time + 1e-6) // _PAUSE + 1.0)
        edges = [self.until, pause, self.outer.next_edge(state.time)]
        for pump in self.plan.pumps:
            if pump.clock is not None:
                edges.append(pump.clock.next_change(state.time))
        cut = self.doings.cut
        if cut is not None:
            edges += [e for e in (cut.begins, cut.begins + cut.lasts) if e > state.time + 1e-6]
        return min(edges)

    # What happens.

    def _by_the_clock(self, state: State) -> None:
        for pump in self.plan.pumps:
            if pump.clock is not None:
                self._switch(state, pump.id, pump.clock.is_on(state.time))
        cut, rain = self.doings.cut, self.doings.weather.rain
        if cut is not None:
            powered = not cut.begins <= state.time + 1e-6 < cut.begins + cut.lasts
            if powered != state.powered:
                state.powered = powered
                self._log(state, "power_on" if powered else "power_off", "")
        if rain is not None:
            wet = rain.begins <= state.time + 1e-6 < rain.begins + rain.lasts
            if wet != state.wet:
                state.wet = wet
                self._log(state, "rain" if wet else "rain_ends", "")

        moving = {m.id for m in self.plan.moves if is_under_way(m, state.time)}
        for transfer in self.plan.transfers:
            moves = transfer.id in moving
            if moves != (transfer.id in state.moving):
                (state.moving.add if moves else state.moving.discard)(transfer.id)
                self._log(state, "transfer" if moves else "transfer_ends", transfer.id)

    def _switch(self, state: State, pump: str, on: bool) -> None:
        if state.switched_on[pump] != on:
            state.switched_on[pump] = on
            self._log(state, "pump_on" if on else "pump_off", pump)

    def _happened(self, state: State, watch: Watch) -> None:
        if watch.what == "float":
            self._switch(state, watch.place, watch.sign > 0.0)
        elif watch.what == "inlet":
            is_bare = watch.sign < 0.0
            did_run = watch.place in self.pumps_on(state)
            (state.dry.add if is_bare else state.dry.discard)(watch.place)
            if did_run if is_bare else watch.place in self.pumps_on(state):
                self._log(state, "air" if watch.sign < 0.0 else "water", watch.place)
        elif watch.what == "rim":
            (state.over.add if watch.sign > 0.0 else state.over.discard)(watch.place)
            self._log(state, "spills" if watch.sign > 0.0 else "spills_no_more", watch.place)
        elif watch.what == "return":
            self.table_levels = {}

    def follow(
        self,
        hours: float,
        is_wanted: Callable[[float], bool] = always,
        *,
        as_far_as_it_goes: bool = False,
    ) -> SimulationResult:
        """Go on until so many hours after its beginning.

        Parameters
        ----------
        hours : float
            How long in all, up to 744, [h]
        is_wanted : callable
            Asked with the time reached, [s], some hours apart; if it says no, the run is given up
        as_far_as_it_goes : bool
            Whether a run that takes more work than it is allowed is given as far as it came, with
            the reason in ``cut_short``, and not refused

        Returns
        -------
        SimulationResult
            What happened since its beginning

        Raises
        ------
        Abandoned
            If it is not wanted any longer
        NotSimulated
            If the time is too long, or it takes too much work
        NotSolved
            If a balance of the pumped runs does not settle
        """
        if not 0.0 < hours * 3600.0 <= LONGEST:
            raise NotSimulated("A plan is followed for up to 744 hours, a month, in one go.")
        self.until = self.begun + hours * 3600.0
        self.most_steps = int(_STEPS_AT_ONCE + _STEPS_AN_HOUR * hours)
        more = int(hours * 3600.0 / self.every) + 1 - len(self.samples)
        self.samples = np.concatenate([self.samples, np.zeros((more, self.samples.shape[1]))])
        self._go_on(is_wanted)
        found = self._answer()
        if found.cut_short and not as_far_as_it_goes:
            raise NotSimulated(f"{found.cut_short} Follow a shorter time.")
        return found

    def _go_on(self, is_wanted: Callable[[float], bool]) -> None:
        state = self.state
        asked = state.time
        for _ in range(_MOST_EVENTS):
            self._by_the_clock(state)
            if state.time >= self.until - 1e-6:
                return
            if state.time >= asked + _PAUSE:
                asked = state.time
                if not is_wanted(state.time):
                    raise Abandoned
            on = self.pumps_on(state)
            self._fill_pipes(state, on)
            levels = self.levels(state)
            self._advance(state, levels, on)
            if self.steps >= self.most_steps:
                self.cut_short = (
                    f"The water in {self._restless(levels, state)} goes to and fro too fast to be "
                    "followed any longer."
                )
            elif self.tables > _MOST_TABLES:
                self.cut_short = (
                    "A return that ends under water goes to and fro between drawing and giving; "
                    "end it above the water."
                )
            if self.cut_short:
                return
        self.cut_short = f"More than {_MOST_EVENTS} things happened."

    def _restless(self, before: Mapping[str, float], state: State) -> str:
        """The vessel or junction whose level has just moved fastest."""
        after = self.levels(state)
        node = max(after, key=lambda n: abs(after[n] - before[n]))
        part = self.plan.part(part_id(node))
        return str(part.name) if part is not None else node

    def _fill_pipes(self, state: State, on: frozenset[str]) -> None:
        """A pump that starts fills its runs out of its vessel; when it stops they fall back."""
        for group in self.system.pumps.groups:
            name, source = group.pumps[0].id, self.place[group.source]
            runs = any(p.id in on for p in group.pumps)
            more = (group.pipe_volume if runs else 0.0) - state.piped.get(name, 0.0)
            more = min(more, max(float(state.volumes[source]), 0.0))
            state.volumes[source] -= more
            state.volumes[-2] += more
            state.piped[name] = state.piped.get(name, 0.0) + more

    def _pumped_at(self, levels: Mapping[str, float], on: frozenset[str]) -> Pumped:
        """What the pumps bring, worked out again where a return has moved too far."""
        if self.pumped is None or not self.table_levels or on != self.known:
            self.pumped, at = self.system.pumps.arrays(on, levels, self.place)
            self.known, self.table_levels = on, dict(at)
            self.tables += 1
        return self.pumped

    def _advance(self, state: State, levels: Mapping[str, float], on: frozenset[str]) -> None:
        pumped = self._pumped_at(levels, on)
        watches = list(watches_of(self.system, self.place, state, self.table_levels))
        marks = np.array([(w.node, w.level, w.sign) for w in watches], dtype=WATCH)
        modes = np.array([state.modes[x.id] for x in self.system.latches], dtype=np.int64)
        outer, before = self.outer.arrays(state.time), state.time
        setup = Setup(self.compiled, modes, pumped, outer, outer.moves_any)
        volumes, time, self.step, hit, self.filled, logged, steps = advance(
            state.volumes,
            state.time,
            float(self._next_edge(state)),
            self.step,
            self.tolerance,
            marks,
            setup,
            (self.begun, self.every),
            self.samples,
            self.filled,
            self.carried,
            self.log,
            max(self.most_steps - self.steps, 1),
        )
        self._read_log(state, logged)
        state.volumes, state.time = volumes, float(time)
        self.steps += int(steps)
        for pump in on:
            self.running[pump] += state.time - before
            if pump in state.dry:
                self.dry[pump] += state.time - before
        if hit >= 0:
            # Several marks may be passed in the same breath.
            after = self.levels(state)
            for number, watch in enumerate(watches):
                node = self.system.nodes[watch.node]
                one, two = (watch.sign * (z[node] - watch.level) for z in (levels, after))
                if number == hit or one < 0.0 <= two:
                    self._happened(state, watch)

    def _read_log(self, state: State, rows: int) -> None:
        """What the siphons did meanwhile."""
        times, kinds, which, snaps = (column[:rows] for column in self.log)
        for time, kind, number, volumes in zip(times, kinds, which, snaps, strict=True):
            latch = self.system.latches[int(number)].id
            state.time, state.volumes = float(time), volumes
            state.modes[latch] = int(kind)
            self._log(state, _WORDS[int(kind)], latch)
            if kind == RUNS:
                self.starts.append(self.moment(state))

    def _answer(self) -> SimulationResult:
        state, count = self.state, len(self.system.nodes)
        rims = state.volumes[count:-2].tolist()
        spills = {v.id: w for v, w in zip(self.plan.vessels, rims, strict=True) if w > 1e-9}
        carried: dict[str, float] = {}
        names = [(k.id, -1.0 if k.id.endswith(BACK) else 1.0) for k in self.system.lines]
        names += [(r.run, r.sign) for r in self.system.pumps.returns]
        for (name, sign), volume in zip(names, self.carried.tolist(), strict=True):
            # A siphon's two lines carry one run's water, a standpipe's rim and its holes one
            # outlet's; a run may carry water backwards too.
            run = name.partition("~")[0].partition(".")[0]
            carried[run] = carried.get(run, 0.0) + sign * volume
        known = {r.id for r in self.plan.runs} | {o.id for o in self.plan.outlets}
        return SimulationResult(
            self.plan,
            self.system.nodes,
            self.samples[: self.filled, 0],
            self.samples[: self.filled, 1:],
            without_brief_hangs(self.events, state.time),
            tuple(self.starts),
            self.moment(state),
            spills,
            -float(state.volumes[-1]),
            {k: v for k, v in carried.items() if k in known},
            abs(float(state.volumes.sum()) - self.held) / max(self.held, 1e-9),
            dict(self.running),
            dict(self.dry),
            self.steps,
            self.cut_short,
        )
