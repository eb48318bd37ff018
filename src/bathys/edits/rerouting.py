"""Lead runs from part to part."""

from collections.abc import Collection, Iterator
from typing import Any, Literal

from bathys.edits.adding import free_id, usual_bore
from bathys.edits.editing import Edit, EditRefused
from bathys.plan.base import LeadsOn
from bathys.plan.model import Plan
from bathys.plan.places import part_id
from bathys.plan.vessel import Vessel

__all__ = [
    "INLET_OVER_RIM",
    "OUTLET_SHARE",
    "connect",
    "known_part",
    "lead_elsewhere",
    "ports_of_these",
]

OUTLET_SHARE = 0.7
"""Share of a vessel's height at which a new hole for an outlet lies."""
INLET_OVER_RIM = 0.03
"""A new pipe that ends at a vessel ends so far over its rim [m]."""


def known_part(plan: Plan, id_: str) -> Any:
    """The part with this id.

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        Id of the part

    Returns
    -------
    object
        The part

    Raises
    ------
    EditRefused
        If there is none
    """
    part = plan.part(id_)
    if part is None:
        raise EditRefused(f"There is no “{id_}” in this plan any more.")
    return part


def _start_place(plan: Plan, id_: str) -> tuple[list[Edit], str]:
    part = known_part(plan, id_)
    if plan.group_of(id_) == "junctions":
        if plan.is_outfall(id_):
            raise EditRefused(f"{part.name} lies outside; no run begins there.")
        return [], id_
    if isinstance(part, Vessel):
        return _new_port(part, "outlet", OUTLET_SHARE * part.shape.height)
    if not isinstance(part, LeadsOn):
        raise EditRefused(f"No run can begin at {part.name}.")
    if plan.run_of(part) is not None:
        raise EditRefused(
            f"A run begins at {part.name} already; lead it to a tee, and branch off there."
        )
    return [], part.leads_from


def _end_place(plan: Plan, id_: str) -> tuple[list[Edit], str]:
    part = known_part(plan, id_)
    if plan.group_of(id_) == "junctions":
        return [], id_
    if not isinstance(part, Vessel):
        raise EditRefused(f"No run can end at {part.name}; name a vessel, a tee or a wye.")
    return _new_port(part, "inlet", part.shape.height + INLET_OVER_RIM)


def _new_port(vessel: Vessel, name: str, height: float) -> tuple[list[Edit], str]:
    taken, number = {p.name for p in vessel.ports}, 1
    while f"{name}{number}" in taken:
        number += 1
    port = {"name": f"{name}{number}", "height": height}
    return [Edit(f"vessels.{vessel.id}.ports.+", port)], f"{vessel.id}.{name}{number}"


def connect(plan: Plan, start: str, end: str) -> tuple[list[Edit], str]:
    """Lead a run from one part to another; a vessel gets a port of its own for it.

    Parameters
    ----------
    plan : Plan
        The plan
    start : str
        Id of a pump, a siphon, an outlet, a junction or a vessel
    end : str
        Id of a vessel or a junction

    Returns
    -------
    (list of Edit, str)
        The edits, and the new run's id

    Raises
    ------
    EditRefused
        If a run cannot lead so
    """
    if start == end:
        raise EditRefused("A run leads from one part to another.")
    ports, begins = _start_place(plan, start)
    more, ends = _end_place(plan, end)
    id_ = free_id(plan, "R")
    run = {
        "id": id_,
        "name": f"{plan.part(start).name} to {plan.part(end).name}"[:80],
        "from": begins,
        "to": ends,
        "bore": usual_bore(plan),
        "level_length": 1.0,
    }
    return [*ports, *more, Edit("runs.+", run)], id_


def lead_elsewhere(plan: Plan, run: str, end: Literal["from", "to"], id_: str) -> list[Edit]:
    """Let a run begin or end at another part; the hole it leaves is closed.

    Parameters
    ----------
    plan : Plan
        The plan
    run : str
        The run's id
    end : {"from", "to"}
        Which of its ends
    id_ : str
        The part it is led to

    Returns
    -------
    list of Edit
        The edits; none if it leads there already

    Raises
    ------
    EditRefused
        If a run cannot lead so
    """
    now = known_part(plan, run)
    place, other = (now.start, now.end) if end == "from" else (now.end, now.start)
    if part_id(place) == id_:
        return []
    if part_id(other) == id_:
        raise EditRefused("A run leads from one part to another.")
    ports, new = (_start_place if end == "from" else _end_place)(plan, id_)
    left = [
        Edit(f"vessels.{v}.ports.{p}", None)
        for v, p in ports_of_these(plan, {run})
        if place == f"{v}.{p}"
    ]
    loose = [
        Edit(f"junctions.{j.id}.straight", None)
        for j in plan.junctions
        if j.straight == run and j.id == place
    ]
    return [*ports, *loose, Edit(f"runs.{run}.{end}", new), *left]


def ports_of_these(plan: Plan, runs: Collection[str]) -> Iterator[tuple[str, str]]:
    """Ports of vessels, as (vessel, port), at which these runs begin or end and no other does.

    Parameters
    ----------
    plan : Plan
        The plan
    runs : collection of str
        Ids of the runs

    Yields
    ------
    (str, str)
        Vessel and port
    """
    mine = {place for r in plan.runs if r.id in runs for place in (r.start, r.end)}
    others = {place for r in plan.runs if r.id not in runs for place in (r.start, r.end)}
    for vessel in plan.vessels:
        for port in vessel.ports:
            if f"{vessel.id}.{port.name}" in mine - others:
                yield vessel.id, port.name
