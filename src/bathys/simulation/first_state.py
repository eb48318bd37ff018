"""The state that a run through time begins with."""

from collections.abc import Callable

import numpy as np

from bathys.plan.model import Plan
from bathys.simulation.compiled import SPILLS
from bathys.simulation.event_detection import SLACK, State
from bathys.simulation.result import Moment
from bathys.simulation.system import System

__all__ = ["first_state"]


def first_state(
    plan: Plan,
    system: System,
    since: Moment | None,
    begun: float,
    levels_at: Callable[[State], dict[str, float]],
) -> State:
    """How a run begins: at rest, or where another one ended.

    Parameters
    ----------
    plan : Plan
        The plan
    system : System
        The plan compiled
    since : Moment or None
        Where to go on from
    begun : float
        Its time, [s]
    levels_at : callable
        Level of each node in a state, [m]

    Returns
    -------
    State
        Volumes, siphons, switches, and what stands dry or over a rim
    """
    sinks = [0.0] * system.sinks
    if since is not None:
        # A joint that a shut valve kept out of the plan so far has what stands in it at rest.
        rest = dict(zip(system.nodes, system.rest_volumes().tolist(), strict=False))
        held = [since.volumes.get(n, rest[n]) for n in system.nodes]
        modes = {x.id: since.modes.get(x.id, SPILLS) for x in system.latches}
        state = State(
            begun,
            np.array([*held, *sinks]),
            modes,
            dict(since.switched_on),
            dict(since.piped),
        )
        state.volumes[-2] = sum(since.piped.values())
    else:
        state = State(
            0.0,
            system.rest_volumes(),
            {x.id: SPILLS for x in system.latches},
            {p.id: p.clock is None for p in plan.pumps},
        )
    levels = levels_at(state)
    for pump in plan.pumps:
        floor = system.floor(pump.stands_in)
        if pump.band is not None and since is None:
            state.switched_on[pump.id] = levels[pump.stands_in] >= floor + pump.band.starts
        if levels[pump.stands_in] < floor + pump.inlet_height + 0.005:
            state.dry.add(pump.id)
    state.over = {
        v.id for v in plan.vessels if levels[v.id] > v.floor_height + v.shape.height + SLACK
    }
    return state
