"""How long a valve is opened to let so much water down, and how the levels follow."""

from dataclasses import dataclass

import numpy as np

from bathys.kinds import model_named
from bathys.plan import Plan
from bathys.simulation import simulate
from bathys.simulation.result import SimulationResult

__all__ = ["LONGEST", "LettingDown", "let_down_by_clock", "letting_down"]

LONGEST = 7200.0
"""A valve is kept open so long at most [s]."""

_FIRST = 300.0  # tried first [s]
_TRIES = 6
_NEAR = 0.01  # of what is wanted [-]
_SETTLED = 2.0  # after so long the plan goes on as it always does [h]


@dataclass(frozen=True)
class LettingDown:
    """One opening of a valve.

    Attributes
    ----------
    seconds : float
        How long it is open, [s]
    volume : float
        What goes through meanwhile; less than wanted where ``LONGEST`` is not enough, [m³]
    falls : tuple of (str, float)
        The vessel whose level falls most, and by how much, [m]
    rises : tuple of (str, float)
        The vessel whose level rises most, and by how much, [m]
    spilled : float
        Over any rim meanwhile, [m³]
    dry : tuple of str
        Pumps left without water meanwhile
    """

    seconds: float
    volume: float
    falls: tuple[str, float]
    rises: tuple[str, float]
    spilled: float
    dry: tuple[str, ...]


def letting_down(plan: Plan, run: str, volume: float) -> LettingDown:
    """Open a valve until so much has gone through.

    Parameters
    ----------
    plan : Plan
        The plan, as it runs with the valve shut
    run : str
        Id of the run with the valve
    volume : float
        What is wanted, over 0, [m³]

    Returns
    -------
    LettingDown
        How long that takes, and the levels at their furthest

    Raises
    ------
    NotSimulated
        If the plan cannot be followed through time

    Notes
    -----
    The plan is followed from where it stands after two hours with the valve shut; the time is found
    by trying, to a hundredth of the volume. A valve that a clock turns is as far open as it stands
    in the plan, any other wide open.
    """
    since = simulate(_with_valve(plan, run, 90.0), _SETTLED).end
    has_clock = any(r.id == run and r.opens_by is not None for r in plan.runs)
    open_plan = _with_valve(plan, run, None if has_clock else 0.0)
    short, least, wanted = 0.0, 0.0, _FIRST
    for _ in range(_TRIES):
        seconds = wanted
        found = simulate(open_plan, seconds / 3600.0, every=5.0, since=since)
        through = found.carried[run]
        if abs(through - volume) <= _NEAR * volume or seconds >= LONGEST:
            break
        gone, took = through - least, seconds - short
        if through < volume:
            short, least = seconds, through
        # The rate over the stretch just followed is close to that of the next.
        rate = gone / took if gone > 0.0 and took > 0.0 else volume / LONGEST
        wanted = min(max(short + (volume - least) / rate, 1.0), LONGEST)
    return _told(plan, run, found, seconds)


def let_down_by_clock(plan: Plan, run: str) -> float:
    """What goes through a valve that a clock opens.

    Parameters
    ----------
    plan : Plan
        The plan
    run : str
        Id of the run; its valve has a clock

    Returns
    -------
    float
        In the mean, [m³/s]

    Raises
    ------
    NotSimulated
        If the plan cannot be followed through time

    Notes
    -----
    Each spell is followed from where the plan stands after two hours with the valve shut, as if it
    had come to rest since the last.
    """
    clock = next(r for r in plan.runs if r.id == run).opens_by
    if clock is None:
        return 0.0
    since = simulate(_with_valve(plan, run, 90.0), _SETTLED).end
    open_plan = _with_valve(plan, run)
    through = {
        spell: simulate(open_plan, spell / 3600.0, since=since).carried[run]
        for spell in {end - begin for begin, end in clock.spells}
    }
    return sum(through[end - begin] for begin, end in clock.spells) / clock.turn


def _with_valve(plan: Plan, run_id: str, angle: float | None = None) -> Plan:
    """With its valve turned, or as it is when its clock has opened it; no clock turns it."""
    fields: dict[str, object] = {"valve_clock": None}
    if angle is not None:
        fields["valve"] = model_named("valves", "ball")(kind="ball", angle=angle)
    rows = tuple(r.model_copy(update=fields) if r.id == run_id else r for r in plan.runs)
    return plan.model_copy(update={"runs": rows})


def _told(plan: Plan, run: str, found: SimulationResult, seconds: float) -> LettingDown:
    names = [v.id for v in plan.vessels]
    falls, rises = {}, {}
    for name in names:
        level = found.level(name)
        falls[name] = float(level[0] - np.min(level))
        rises[name] = float(np.max(level) - level[0])
    down, up = max(names, key=falls.__getitem__), max(names, key=rises.__getitem__)
    return LettingDown(
        seconds,
        found.carried[run],
        (down, falls[down]),
        (up, rises[up]),
        found.spilled,
        tuple(p for p, t in found.dry.items() if t > 0.0),
    )
