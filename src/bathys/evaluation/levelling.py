"""How level a vessel must stand for its outlets to share its water as meant."""

from dataclasses import dataclass

import numpy as np

from bathys.evaluation.result import Evaluation
from bathys.network import GravityLineArrays, gravity_lines
from bathys.vessels import spans_of

__all__ = ["Levelling", "OutletShare", "levelling_of"]

WITHIN = 0.10
"""Shares are to stay within this of what they are when the vessel stands level [-]."""

_LEAST = 1e-9
_STEP = 1e-3  # of its flow, to tell how an outlet answers to the level [-]


@dataclass(frozen=True, slots=True)
class OutletShare:
    """One outlet of a vessel that has several.

    Attributes
    ----------
    run : str
        The run
    flow : float
        What it carries, [m³/s]
    share : float
        Of all that leaves by them, [-]
    answers : float
        By what share of its flow it changes for a metre of level, [1/m]
    """

    run: str
    flow: float
    share: float
    answers: float


@dataclass(frozen=True, slots=True)
class Levelling:
    """A vessel that shares out its water.

    Attributes
    ----------
    vessel : str
        Its id
    outlets : tuple of OutletShare
        Where its water goes
    apart : float
        How far its outer outlets may lie apart: its length, [m]
    tilt : float
        Fall over length at which one of them is off by a tenth, [-]
    """

    vessel: str
    outlets: tuple[OutletShare, ...]
    apart: float
    tilt: float


def levelling_of(found: Evaluation) -> tuple[Levelling, ...]:
    """Every vessel with two or more ways out that lead to different vessels.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Levelling
        In the plan's order

    Notes
    -----
    From the slope of each line's law at its own flow: dQ/dh. Tilted about its middle by θ, the
    outer outlets stand θ L/2 higher and lower, so that θ = 0.1 · 2/(L · (dQ/dh)/Q).
    """
    plan, now = found.plan, found.balance
    lines = {k.id: k for k in gravity_lines(now.layout)}
    rows = []
    for vessel in plan.vessels:
        own = [
            r
            for r in now.layout.drained_by(vessel.id)
            if r.id in lines and found.runs[r.id].flow > _LEAST and not plan.is_outfall(r.end)
        ]
        if len({r.target for r in own}) < 2:
            continue
        total = sum(found.runs[r.id].flow for r in own)
        outlets = []
        for run in own:
            line, flow = lines[run.id], found.runs[run.id].flow
            tail = np.array([now.levels.get(line.end or "", -np.inf)])
            bank = GravityLineArrays([line])
            low, high = (
                float(bank.need(np.array([flow * s]), tail)[0][0]) for s in (1 - _STEP, 1 + _STEP)
            )
            outlets.append(
                OutletShare(run.id, flow, flow / total, 2.0 * _STEP / max(high - low, 1e-9))
            )
        left, right = spans_of(plan)[vessel.id]
        apart = max(right - left, *vessel.shape.sides)
        sharpest = max(o.answers for o in outlets)
        rows.append(Levelling(vessel.id, tuple(outlets), apart, WITHIN * 2.0 / (apart * sharpest)))
    return tuple(rows)
