"""Add a part, as it is usually built."""

from collections import Counter
from collections.abc import Callable
from copy import deepcopy
from typing import Any

from bathys.edits.editing import Edit, EditRefused
from bathys.edits.usual import INCH
from bathys.kinds import facets, kind_named, kind_of, models_of
from bathys.parts.jobs import JOBS
from bathys.plan.model import Plan
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import WayOut
from bathys.vessels import GAP, spans_of

__all__ = ["ADDABLE", "LETTERS", "add_part", "free_id", "right_end", "usual_bore"]

LETTERS = {
    "vessels": "V",
    "pumps": "P",
    "runs": "R",
    "siphons": "X",
    "outlets": "O",
    "junctions": "J",
    "top_ups": "W",
    "transfers": "Q",
    "fish": "K",
    "air": "A",
    "air_pumps": "AP",
    "appliances": "L",
}
"""With which the ids of each list's parts begin."""


def free_id(plan: Plan, letter: str) -> str:
    """The first id of a letter that no part has.

    Parameters
    ----------
    plan : Plan
        The plan
    letter : str
        The letter ids of such parts begin with

    Returns
    -------
    str
        Such as ``B3``
    """
    number = 1
    while plan.part(f"{letter}{number}") is not None:
        number += 1
    return f"{letter}{number}"


def usual_bore(plan: Plan) -> dict[str, Any]:
    """The bore that most runs have, as plain data.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of str to object
        The bore, as plan data
    """
    counts = Counter(r.bore.model_dump_json() for r in plan.runs)
    if not counts:
        return dict(INCH)
    most = counts.most_common(1)[0][0]
    return next(
        r.bore.model_dump(mode="json") for r in plan.runs if r.bore.model_dump_json() == most
    )


def right_end(plan: Plan) -> float:
    """Where the next vessel is drawn: right of all others [m].

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    float
        Across, in picture units of the plan, [m]
    """
    return max(right for _, right in spans_of(plan).values()) + GAP


def _vessel(plan: Plan, job: str, stands_in: str) -> Edit:
    use = JOBS[job]
    new = free_id(plan, use.letter)
    is_first = all(v.name != use.name for v in plan.vessels)
    return Edit(
        "vessels.+",
        {
            "id": new,
            "name": use.name if is_first else f"{use.name} {new}",
            "job": job,
            "ports": [],
            "along": right_end(plan),
            **deepcopy(dict(use.usual)),
        },
    )


def _pump(plan: Plan, kind: str, stands_in: str) -> Edit:
    return Edit(
        "pumps.+",
        {
            "id": free_id(plan, "P"),
            "name": "Pump",
            "stands_in": stands_in,
            "inlet_height": 0.05,
            "power": 20.0,
            "curve": {"kind": "label", "max_flow": 5e-4, "max_head": 2.0},
        },
    )


def _way_out(model: type[WayOut], edits: Any) -> Callable[[Plan, str, str], Edit]:
    """A siphon or an outlet of a kind."""

    def make(plan: Plan, kind: str, stands_in: str) -> Edit:
        name: str = edits.NAME
        part = {
            "id": free_id(plan, LETTERS[model.GROUP]),
            "stands_in": stands_in,
            "kind": kind,
            "name": name[0].upper() + name[1:],
            **edits.usual(plan.vessel(stands_in).shape.height),
        }
        return Edit(f"{model.GROUP}.+", part)

    return make


def _supply(model: Any, edits: Any) -> Callable[[Plan, str, str], Edit]:
    """What brings or takes water by itself."""

    def make(plan: Plan, kind: str, stands_in: str) -> Edit:
        head = {"id": free_id(plan, LETTERS[model.GROUP]), "kind": kind}
        return Edit(f"{model.GROUP}.+", {**head, **edits.usual(plan.vessel(stands_in))})

    return make


def _made_by(make: Any, *groups: str) -> dict[str, tuple[str, bool, Any]]:
    """What can be added to some of the plan's lists, by kind."""
    found = facets("edits")
    return {
        kind_of(m): (found[m].NAME, True, make(m, found[m]))
        for group in groups
        for m in models_of(group)
        if m in found
    }


def _air_pump(plan: Plan, kind: str, stands_in: str) -> Edit:
    usual = kind_named(kind, "edits").usual()
    return Edit("air_pumps.+", {"id": free_id(plan, "AP"), "kind": kind, **usual})


def _junction(plan: Plan, kind: str, stands_in: str) -> Edit:
    heights = [j.height for j in plan.junctions] or [
        max(v.floor_height + v.shape.height for v in plan.vessels) + 0.1
    ]
    return Edit(
        "junctions.+",
        {"id": free_id(plan, "J"), "name": kind.capitalize(), "kind": kind, "height": heights[-1]},
    )


def _outfall(plan: Plan, kind: str, stands_in: str) -> Edit:
    """An end outside, low enough for what is to run off there."""
    low = min(v.floor_height for v in plan.vessels)
    return Edit(
        "junctions.+", {"id": free_id(plan, "J"), "name": "Outfall", "kind": kind, "height": low}
    )


ADDABLE: dict[str, tuple[str, bool, Callable[[Plan, str, str], Edit]]] = {
    **{name: (job.name.lower(), False, _vessel) for name, job in JOBS.items()},
    "pump": ("pump", True, _pump),
    **_made_by(_way_out, "siphons", "outlets"),
    **_made_by(_supply, "top_ups", "transfers", "fish", "air", "appliances"),
    "air_pump": ("air pump", False, _air_pump),
    "tee": ("tee", False, _junction),
    "wye": ("wye", False, _junction),
    "outfall": ("outfall, outside", False, _outfall),
}
"""What can be added: its name, whether it stands in a vessel, and how it is made."""


def add_part(plan: Plan, kind: str, stands_in: str = "") -> tuple[list[Edit], str]:
    """Add a part of a kind, as it is usually built.

    Parameters
    ----------
    plan : Plan
        The plan
    kind : str
        A key of :data:`ADDABLE`
    stands_in : str
        The vessel it stands in, for what does

    Returns
    -------
    (list of Edit, str)
        The edits, and the new part's id

    Raises
    ------
    EditRefused
        If there is no such kind, or no vessel was named
    """
    if kind not in ADDABLE:
        raise EditRefused(f"“{kind}” is nothing that can be added.")
    name, needs_vessel, make = ADDABLE[kind]
    if needs_vessel and not isinstance(plan.part(stands_in), Vessel):
        raise EditRefused(f"Say which vessel the {name} stands in.")
    edit = make(plan, kind, stands_in)
    return [edit], edit.value["id"]
