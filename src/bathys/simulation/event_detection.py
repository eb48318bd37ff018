"""How a plan stands at a moment of a run, and which levels are then to be told of."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from bathys.simulation.pumped import PumpGroup, Return, reach_of
from bathys.simulation.system import System

__all__ = ["SLACK", "State", "Watch", "watches_of"]

SLACK = 1e-4
"""A level this far past a mark has passed it [m]."""

_FRESH = 0.01  # rise over a bare return that wants new pump flows [m]


@dataclass
class State:
    """How a plan stands: what every node holds [m³], which siphons run, what is switched on."""

    time: float
    volumes: NDArray[np.float64]
    modes: dict[str, int]
    switched_on: dict[str, bool]
    piped: dict[str, float] = field(default_factory=dict)
    powered: bool = True
    wet: bool = False
    moving: set[str] = field(default_factory=set)
    over: set[str] = field(default_factory=set)
    dry: set[str] = field(default_factory=set)


@dataclass
class Watch:
    """A level to be told of when it is passed, upwards for a positive sign."""

    node: int
    level: float
    sign: float
    what: str
    place: str


def watches_of(
    system: System, place: Mapping[str, int], state: State, table_levels: Mapping[str, float]
) -> Iterator[Watch]:
    """Marks of floats, inlets, rims and drowned returns, as the plan stands.

    Parameters
    ----------
    system : System
        The compiled plan
    place : mapping of str to int
        Number of each node
    state : State
        How it stands
    table_levels : mapping of str to float
        Levels that the pumps' flows were worked out at, [m]

    Yields
    ------
    Watch
        One mark
    """
    plan = system.plan
    for pump in plan.pumps:
        node, floor = place[pump.stands_in], system.floor(pump.stands_in)
        if pump.band is not None:
            on = state.switched_on[pump.id]
            height = pump.band.stops if on else pump.band.starts
            yield Watch(node, floor + height, -1.0 if on else 1.0, "float", pump.id)
        inlet = floor + pump.inlet_height + 0.005
        is_dry = pump.id in state.dry
        yield Watch(
            node, inlet + (0.01 if is_dry else 0.0), 1.0 if is_dry else -1.0, "inlet", pump.id
        )
    for vessel in plan.vessels:
        rim = vessel.floor_height + vessel.shape.height
        is_over = vessel.id in state.over
        yield Watch(
            place[vessel.id],
            rim + (0.0 if is_over else SLACK),
            -1.0 if is_over else 1.0,
            "rim",
            vessel.id,
        )
    for group in system.pumps.groups:
        if system.pumps.is_alone(group):
            continue  # one table holds for all levels
        for end in (r for r in group.returns if r.vessel):
            yield from _of_return(place[end.vessel], end, group, table_levels)


def _of_return(
    node: int, end: Return, group: PumpGroup, table_levels: Mapping[str, float]
) -> Iterator[Watch]:
    """Marks at which the pumped flows of a return must be worked out again."""
    level = table_levels.get(end.vessel, -1e9)
    if level <= end.mouth + _FRESH:
        yield Watch(node, end.mouth + _FRESH, 1.0, "return", end.vessel)
    if level <= end.mouth:
        return
    moved = reach_of(end, group, table_levels)
    yield Watch(node, level + moved, 1.0, "return", end.vessel)
    yield Watch(node, max(level - moved, end.mouth - 1e-6), -1.0, "return", end.vessel)
