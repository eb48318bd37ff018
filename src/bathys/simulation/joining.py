"""Stretches of time that a plan was followed through, put together."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from bathys.plan.model import Plan
from bathys.simulation.result import Event, Moment, SimulationResult

__all__ = ["carried_on", "joined_through"]

_PAIRS = {"power_off": "power_on", "rain": "rain_ends", "transfer": "transfer_ends"}


def carried_on(before: Moment | None, end: Moment) -> Moment:
    """Where a stretch ended, for the next to go on from: what stands in joints that the stretch
    did not know, since a valve was shut before them, stays where it was.

    Parameters
    ----------
    before : Moment or None
        Where that stretch began; none at rest
    end : Moment
        Where it ended

    Returns
    -------
    Moment
        The end, with all that is known of
    """
    return end if before is None else replace(end, volumes={**before.volumes, **end.volumes})


def _added(parts: Sequence[dict[str, float]]) -> dict[str, float]:
    keys = {k: None for part in parts for k in part}
    return {k: sum(part.get(k, 0.0) for part in parts) for k in keys}


def _events(parts: Sequence[SimulationResult]) -> tuple[Event, ...]:
    """Events of all parts; what a part only tells again of its beginning is left out."""
    found: list[Event] = []
    last: dict[str, str] = {}
    for part in parts:
        for event in part.events:
            pair = _PAIRS.get(event.kind, event.kind)
            if pair in _PAIRS.values():
                key = f"{pair} {event.place}"
                if last.get(key) == event.kind:
                    continue
                last[key] = event.kind
            found.append(event)
    return tuple(found)


def joined_through(plan: Plan, parts: Sequence[SimulationResult]) -> SimulationResult:
    """Several stretches of time, one after the other, as one.

    Parameters
    ----------
    plan : Plan
        The plan they are told of
    parts : sequence of SimulationResult
        Each going on where the one before ended

    Returns
    -------
    SimulationResult
        Levels of vessels alone where the parts do not have the same nodes
    """
    if len(parts) == 1:
        return replace(parts[0], plan=plan)
    nodes = tuple(n for n in parts[0].nodes if all(n in p.nodes for p in parts))
    times, levels = [], []
    last = -np.inf
    for part in parts:
        keep = part.times > last + 1e-6
        times.append(part.times[keep])
        levels.append(np.column_stack([part.level(n)[keep] for n in nodes]))
        last = float(part.times[-1])
    starts: tuple[Moment, ...] = tuple(m for p in parts for m in p.starts)
    return SimulationResult(
        plan,
        nodes,
        np.concatenate(times),
        np.concatenate(levels),
        _events(parts),
        starts,
        parts[-1].end,
        _added([p.spills for p in parts]),
        sum(p.supplied for p in parts),
        _added([p.carried for p in parts]),
        max(p.lost for p in parts),
        _added([p.running for p in parts]),
        _added([p.dry for p in parts]),
        sum(p.steps for p in parts),
        parts[-1].cut_short,
    )
