"""From an evaluation's mean flows to the places and legs of the transport model."""

import numpy as np

from bathys.evaluation import Evaluation
from bathys.quality.transport import FlowNet, Leg

__all__ = ["flow_net"]

_STILL = 1e-10  # flow that carries nothing [m³/s]


def flow_net(found: Evaluation) -> FlowNet:
    """The mean flows of a plan: runs, what is moved by the clock, what runs over, what comes from
    outside to make it up.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    FlowNet
        Vessels first, then joints
    """
    plan = found.plan
    joints = [j.id for j in plan.junctions if not plan.is_outfall(j.id)]
    places = (*(v.id for v in plan.vessels), *joints)
    number = {place: k for k, place in enumerate(places)}

    def at(place: str) -> int:
        if plan.is_outfall(place):
            return -1
        return number[plan.owner_of(place) or place]

    legs: list[Leg] = []
    for run in plan.runs:
        flow = found.runs[run.id].mean_flow
        if abs(flow) > _STILL:
            one, two = at(run.start), at(run.end)
            start, end = (one, two) if flow > 0.0 else (two, one)
            legs.append(Leg(run.id, start, end, abs(flow)))
    for move in plan.moves:
        start, end = (number[v] if v is not None else -1 for v in (move.source, move.target))
        if move.volume > 0.0:
            legs.append(Leg(move.id, start, end, move.volume / move.every))
    for vessel in plan.vessels:
        spill = found.vessels[vessel.id].spill
        if spill > _STILL:
            over = number[vessel.within] if vessel.within is not None else -1
            legs.append(Leg(f"{vessel.id}.rim", number[vessel.id], over, spill))
    volumes = np.array(
        [max(found.vessels[v.id].volume, 1e-6) for v in plan.vessels] + [0.0] * len(joints)
    )
    return FlowNet(places, volumes, (*legs, *_made_up(places, legs)))


def _made_up(places: tuple[str, ...], legs: list[Leg]) -> list[Leg]:
    """Fresh water for what leaves a place over what comes to it: by its float valve or by hand."""
    net = np.zeros(len(places))
    for leg in legs:
        if leg.start >= 0:
            net[leg.start] -= leg.flow
        if leg.end >= 0:
            net[leg.end] += leg.flow
    return [
        Leg(f"{place}.made_up", -1, n, float(-net[n]))
        for n, place in enumerate(places)
        if net[n] < -_STILL
    ]
