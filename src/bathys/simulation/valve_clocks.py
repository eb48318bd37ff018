"""Valves that a clock opens and shuts: a plan followed stretch by stretch, each with its valves as
they then stand."""

from collections.abc import Callable
from dataclasses import replace

from bathys.kinds import model_named
from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.simulation.doings import Doings, always
from bathys.simulation.errors import NotSimulated
from bathys.simulation.joining import carried_on, joined_through
from bathys.simulation.result import Event, Moment, SimulationResult
from bathys.simulation.simulator import LONGEST, Simulation
from bathys.simulation.system import System, compile_system

__all__ = ["ClockedSimulation", "plan_at", "simulate", "simulation_of"]

_MOST_STRETCHES = 1500
_SHUT = 90.0  # angle of a lever across its pipe [°]


def _with_valve(run: Run, is_open: bool) -> Run:
    if run.valve_clock is None:
        return run
    fields: dict[str, object] = {"valve_clock": None}
    if not is_open:
        fields["valve"] = model_named("valves", "ball")(kind="ball", angle=_SHUT)
    return run.model_copy(update=fields)


def plan_at(plan: Plan, time: float) -> Plan:
    """A plan with each valve as its clock has it at a time.

    Parameters
    ----------
    plan : Plan
        The plan
    time : float
        A time since the beginning, [s]

    Returns
    -------
    Plan
        The same, its clocked valves open or shut and no longer turned by a clock
    """
    return _plan_with(plan, _open_at(plan, time))


def _open_at(plan: Plan, time: float) -> frozenset[str]:
    return frozenset(r.id for r in plan.runs if r.opens_by is not None and r.opens_by.is_on(time))


def _plan_with(plan: Plan, open_runs: frozenset[str]) -> Plan:
    return plan.model_copy(
        update={"runs": tuple(_with_valve(r, r.id in open_runs) for r in plan.runs)}
    )


class ClockedSimulation:
    """As :class:`Simulation`, of a plan with valves that clocks turn.

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
    """

    def __init__(
        self,
        plan: Plan,
        doings: Doings | None = None,
        every: float = 10.0,
        since: Moment | None = None,
    ) -> None:
        self.plan, self.doings, self.every, self.since = plan, doings, every, since
        self.begun = since.time if since is not None else 0.0
        self._parts: list[SimulationResult] = []
        self._kept: dict[frozenset[str], tuple[Plan, System]] = {}

    def follow(
        self,
        hours: float,
        is_wanted: Callable[[float], bool] = always,
        *,
        as_far_as_it_goes: bool = False,
    ) -> SimulationResult:
        """As :meth:`Simulation.follow`.

        Parameters
        ----------
        hours : float
            How long in all, up to 744, [h]
        is_wanted : callable
            Asked with the time reached, [s], some hours apart
        as_far_as_it_goes : bool
            Whether a run that takes too much work is given as far as it came

        Returns
        -------
        SimulationResult
            What happened since its beginning

        Raises
        ------
        NotSimulated
            If the time is too long, or valves turn too often in it
        """
        until = self.begun + hours * 3600.0
        if not 0.0 < hours * 3600.0 <= LONGEST:
            raise NotSimulated("A plan is followed for up to 744 hours, a month, in one go.")
        since, now = self.since, self._parts[-1].end.time if self._parts else self.begun
        while now < until - 1e-6:
            if len(self._parts) >= _MOST_STRETCHES:
                raise NotSimulated(
                    f"Valves turn over {_MOST_STRETCHES} times in so long. Follow a shorter time."
                )
            edges = [r.opens_by.next_change(now) for r in self.plan.runs if r.opens_by is not None]
            then = min([until, *edges])
            found = self._stretch(since, now, then, is_wanted, as_far_as_it_goes)
            self._parts.append(found)
            since, now = carried_on(since, found.end), then
            since = self.since = replace(since, time=now)
            if found.cut_short:
                break
        return joined_through(self.plan, self._parts)

    def _stretch(
        self,
        since: Moment | None,
        now: float,
        then: float,
        is_wanted: Callable[[float], bool],
        as_far_as_it_goes: bool,
    ) -> SimulationResult:
        is_open = _open_at(self.plan, now)
        if is_open not in self._kept:
            own = _plan_with(self.plan, is_open)
            water = water_at(own.site.water_temperature)
            self._kept[is_open] = own, compile_system(layout_of(own, water))
        own, system = self._kept[is_open]
        run = Simulation(own, self.doings, self.every, since, system)
        found = run.follow((then - now) / 3600.0, is_wanted, as_far_as_it_goes=as_far_as_it_goes)
        before = _open_at(self.plan, now - 1.0) if now > 0.0 else frozenset()
        turned = [Event(now, "valve_opens", r) for r in sorted(is_open - before)]
        turned += [Event(now, "valve_shuts", r) for r in sorted(before - is_open)]
        return replace(found, events=(*turned, *found.events))


def simulation_of(
    plan: Plan,
    doings: Doings | None = None,
    every: float = 10.0,
    since: Moment | None = None,
) -> Simulation | ClockedSimulation:
    """What follows a plan, whether or not clocks turn its valves.

    Parameters
    ----------
    plan : Plan
        The plan
    doings : Doings, optional
        What is done to it on the way
    every : float
        Time between samples, [s]
    since : Moment, optional
        Where to go on from, in place of rest; its times run on

    Returns
    -------
    Simulation or ClockedSimulation
        Both go on by ``follow``
    """
    is_clocked = any(r.valve_clock is not None for r in plan.runs)
    return (ClockedSimulation if is_clocked else Simulation)(plan, doings, every, since)


def simulate(
    plan: Plan,
    hours: float,
    doings: Doings | None = None,
    every: float = 10.0,
    since: Moment | None = None,
    is_wanted: Callable[[float], bool] = always,
    *,
    as_far_as_it_goes: bool = False,
) -> SimulationResult:
    """Follow a plan through time, from rest: filled, everything drained, pumps just switched on.

    Parameters
    ----------
    plan : Plan
        The plan
    hours : float
        How long, up to 744, [h]
    doings : Doings, optional
        What is done to it on the way: a power cut, rain, something stuck
    every : float
        Time between samples, [s]
    since : Moment, optional
        Where to go on from, in place of rest; its times run on
    is_wanted : callable
        Asked with the time reached, [s], some hours apart; if it says no, the run is given up
    as_far_as_it_goes : bool
        Whether a run that takes more work than it is allowed is given as far as it came, with the
        reason in ``cut_short``, and not refused

    Returns
    -------
    SimulationResult
        What happened

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    NotSimulated
        If the layout or the time is not followed
    NotSolved
        If a balance of the pumped runs does not settle
    """
    run = simulation_of(plan, doings, every, since)
    return run.follow(hours, is_wanted, as_far_as_it_goes=as_far_as_it_goes)
