"""A plan followed through time with things done to it on the way, each at its own moment."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from bathys.edits.editing import Edit, apply_edits
from bathys.edits.valves import SHUT, throttle
from bathys.plan.model import Plan
from bathys.simulation.boundary_conditions import DRY_AIR, STORM_LASTS, Rain, Weather
from bathys.simulation.doings import Doings, always
from bathys.simulation.joining import carried_on, joined_through
from bathys.simulation.result import PowerCut, SimulationResult
from bathys.simulation.valve_clocks import simulate

__all__ = ["STEPS", "ScenarioStep", "StepKind", "follow", "joined_through"]

StepKind = Literal["plug", "block", "turn", "dead", "idle", "stuck", "rain"]
STEPS: dict[StepKind, str] = {
    "plug": "",
    "block": "runs",
    "turn": "runs",
    "dead": "pumps",
    "idle": "siphons",
    "stuck": "siphons",
    "rain": "",
}
"""What can be done, and which list of the plan its place stands in."""


@dataclass(frozen=True, slots=True)
class ScenarioStep:
    """Something done to a plan while it runs.

    Attributes
    ----------
    time : float
        When, [s]
    kind : str
        Pull the ``plug``, ``block`` a run, ``turn`` a valve, a pump goes ``dead``, a siphon is
        ``idle`` and never starts or ``stuck`` and never breaks, it begins to ``rain``
    place : str
        Id of the part; none for the plug and the rain
    amount : float
        How long the power is gone, [s]; the valve's angle, [°]; the depth of rain, [m]
    """

    time: float
    kind: StepKind
    place: str = ""
    amount: float = 0.0


def _done(plan: Plan, doings: Doings, step: ScenarioStep) -> tuple[Plan, Doings]:
    """Plan and doings from a step on."""
    held = frozenset({step.place})
    if step.kind in ("block", "turn"):
        angle = step.amount if step.kind == "turn" else SHUT
        return apply_edits(plan, [Edit(f"runs.{step.place}.valve", throttle(angle))]), doings
    if step.kind == "plug":
        cut = doings.cut
        ends = step.time + step.amount
        if cut is not None and cut.begins <= step.time < cut.begins + cut.lasts:
            whole = max(cut.begins + cut.lasts, ends) - cut.begins
            return plan, replace(doings, cut=PowerCut(cut.begins, whole))
        return plan, replace(doings, cut=PowerCut(step.time, step.amount))
    if step.kind == "rain":
        storm = Rain(step.time, STORM_LASTS, step.amount)
        return plan, replace(doings, weather=Weather(doings.weather.evaporation, storm))
    if step.kind == "dead":
        return plan, replace(doings, dead=doings.dead | held)
    if step.kind == "idle":
        return plan, replace(doings, never_starts=doings.never_starts | held)
    return plan, replace(doings, never_breaks=doings.never_breaks | held)


def follow(
    plan: Plan,
    hours: float,
    steps: Sequence[ScenarioStep] = (),
    weather: Weather = DRY_AIR,
    every: float = 10.0,
    is_wanted: Callable[[float], bool] = always,
) -> SimulationResult:
    """Follow a plan from its first start.

    Parameters
    ----------
    plan : Plan
        The plan
    hours : float
        How long, [h]
    steps : sequence of ScenarioStep
        What is done to it; what would come after the end is left out
    weather : Weather
        What falls and dries all the time
    every : float
        Time between samples, [s]
    is_wanted : callable
        As in :func:`simulate`

    Returns
    -------
    SimulationResult
        All of it, told of the plan as it was at first

    Raises
    ------
    Abandoned, NotSimulated, NotSolved
        As :func:`simulate`
    EditRefused
        If a run cannot be shut
    """
    end = hours * 3600.0
    wanted = sorted((d for d in steps if d.time < end), key=lambda d: d.time)
    doings, parts = Doings(weather=weather), []
    here, now, since = plan, 0.0, None
    for step in wanted:
        if step.time > now + 1.0:
            span = (step.time - now) / 3600.0
            parts.append(
                simulate(here, span, doings, every, since, is_wanted, as_far_as_it_goes=True)
            )
            if parts[-1].cut_short:
                return joined_through(plan, parts)
            since, now = carried_on(since, parts[-1].end), step.time
            # A clock that was read to the microsecond is set again to the second.
            since = replace(since, time=now)
        here, doings = _done(here, doings, replace(step, time=max(step.time, now)))
    parts.append(
        simulate(
            here, (end - now) / 3600.0, doings, every, since, is_wanted, as_far_as_it_goes=True
        )
    )
    return joined_through(plan, parts)
