"""Valve settings of drains that feed vessels side by side: the inflow is shared as wanted.

What comes to the header is what it is; the level in it rises until all of it leaves. So the flows
are the same share of those wanted, the neediest branch has its valve wide open, and the header's
own level is one of the unknowns.
"""

from dataclasses import dataclass

import numpy as np

from bathys.edits.editing import Edit, apply_edits
from bathys.edits.valves import throttle
from bathys.halving import greatest
from bathys.network import (
    Balance,
    GravityLine,
    GravityLineArrays,
    Line,
    Piece,
    balance,
    gravity_lines,
)
from bathys.network.layout import Layout, layout_of
from bathys.network.runs import fouled_bore, start_height
from bathys.parts.rounding import handle
from bathys.parts.valves import ball_valve_loss
from bathys.plan.model import Plan
from bathys.plan.pipes import Run

__all__ = ["HeaderSettings", "set_header", "wanted_drains"]

_ROUNDS = 25
_CLOSE = 0.01  # flows this near to what is aimed at will do [-]
_NO_FLOW = 1e-9
_NO_SPARE = 1e-5  # [m]
_HALVINGS = 30
_STEEPEST = 79.0  # a handle turned further is shut [°]


@dataclass(frozen=True, slots=True)
class HeaderSettings:
    """Valves of the drains that share the inflow of a header.

    Attributes
    ----------
    angles : dict
        Handle of each drain's valve from open, by run, [°]
    flows : dict
        What each gets then, by run, [m³/s]
    spare : dict
        Head its valve takes, by run, [m]
    share : float
        Those flows over what is wanted, [-]
    is_settled : bool
        Whether the flows come out as they should
    least, most : float
        With every valve open, the least and the greatest share of what each should get, [-]
    fall : float
        By how much the branches' beginnings differ in height, [m]
    apart : float
        By how much the levels or ends they run to differ in height, [m]
    edits : tuple of Edit
        The change to the plan
    """

    angles: dict[str, float]
    flows: dict[str, float]
    spare: dict[str, float]
    share: float
    is_settled: bool
    least: float
    most: float
    fall: float
    apart: float
    edits: tuple[Edit, ...]


def wanted_drains(plan: Plan, layout: Layout) -> dict[str, float]:
    """Flow wanted of each drain that ends in a vessel, where one is given [m³/s].

    Parameters
    ----------
    plan : Plan
        The plan
    layout : Layout
        The plan compiled

    Returns
    -------
    dict of str to float
        The flow by the run's id, [m³/s]
    """
    return {
        r.id: r.wanted_flow
        for r in plan.runs
        if r.id in layout.gravity and r.wanted_flow is not None and plan.port(r.end) is not None
    }


def _turned(plan: Plan, angles: dict[str, float]) -> Plan:
    return apply_edits(plan, _edits(angles))


def _edits(angles: dict[str, float]) -> tuple[Edit, ...]:
    return tuple(
        Edit(f"runs.{id_}.valve", throttle(handle(angle))) for id_, angle in angles.items()
    )


def _with_valve(row: GravityLine, run: Run, angle: float) -> GravityLine:
    """A drain with its valve, or one fitted to it, at a handle angle."""
    assert row.line is not None  # noqa: S101 - a run has one
    valve = Piece("valve", "valve", fouled_bore(run), loss=ball_valve_loss(angle))
    pieces = [*(p for p in row.line.pieces if p.kind != "valve"), valve]
    return row._replace(line=Line(pieces, row.line.viscosity))


def _need(row: GravityLine, run: Run, angle: float, flow: float, tail: float) -> float:
    """Level upstream that a drain needs for a flow with its valve at an angle [m]."""
    bank = GravityLineArrays([_with_valve(row, run, angle)])
    return float(bank.need(np.array([flow]), np.array([tail]))[0][0])


def _angle(row: GravityLine, run: Run, flow: float, tail: float, level: float) -> float:
    """Handle at which a drain takes a level for its flow [°]."""
    return greatest(
        lambda angle: _need(row, run, angle, flow, tail) < level, 0.0, _STEEPEST, _HALVINGS
    )


def set_header(now: Balance, wanted: dict[str, float]) -> HeaderSettings:
    """Valves of drains for flows in the proportion wanted.

    Parameters
    ----------
    now : Balance
        The plan as it stands
    wanted : dict
        Flow wanted by run, [m³/s]

    Returns
    -------
    HeaderSettings
        Settings, and how even the flows are without them

    Raises
    ------
    NotSolved
        If a balance does not settle
    """
    plan, water = now.plan, now.layout.water
    angles = dict.fromkeys(wanted, 0.0)
    open_plan = _turned(plan, angles)
    found = balance(open_plan, water)
    comes = sum(max(found.flows[r], 0.0) for r in wanted)
    share = comes / sum(wanted.values())
    aims = {r: share * q for r, q in wanted.items()}
    even = [found.flows[r] / max(q, _NO_FLOW) for r, q in aims.items()]
    spare = dict.fromkeys(wanted, 0.0)
    rows = {k.id: k for k in gravity_lines(layout_of(open_plan, water)) if k.id in wanted}
    settled = _is_close(found, aims)
    for _ in range(_ROUNDS):
        if settled or comes <= _NO_FLOW:
            break
        tails = {r: found.levels.get(rows[r].end or "", -np.inf) for r in wanted}
        needs = {r: _need(rows[r], plan.part(r), 0.0, q, tails[r]) for r, q in aims.items()}
        # Where several begin at one height, the level the neediest asks for; along a header that
        # falls, each place has a level of its own.
        over = max(needs[r] - _upstream(found, plan.part(r)) for r in wanted)
        for id_, flow in aims.items():
            level = _upstream(found, plan.part(id_)) + over
            spare[id_] = max(level - needs[id_], 0.0)
            run = plan.part(id_)
            angles[id_] = (
                0.0 if spare[id_] < _NO_SPARE else _angle(rows[id_], run, flow, tails[id_], level)
            )
        found = balance(_turned(plan, angles), water)
        settled = _is_close(found, aims)
    runs = [plan.part(r) for r in wanted]
    starts = [start_height(plan, r) for r in runs]
    ends = [max(plan.elevation(r.end) or 0.0, found.levels.get(r.target, -1e9)) for r in runs]
    return HeaderSettings(
        angles,
        {r: found.flows[r] for r in wanted},
        spare,
        share,
        settled,
        min(even),
        max(even),
        max(starts) - min(starts),
        max(ends) - min(ends),
        _edits(angles),
    )


def _upstream(now: Balance, run: Run) -> float:
    return now.levels.get(now.plan.owner_of(run.start) or run.start, -np.inf)


def _is_close(found: Balance, aims: dict[str, float]) -> bool:
    return all(abs(found.flows[r] - q) <= _CLOSE * q for r, q in aims.items())
