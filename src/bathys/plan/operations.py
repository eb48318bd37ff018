"""Operations on whole parts: add, duplicate, take away, connect, raise, move along.

Each gives edits, so that all are applied, checked, undone and told in one way.
"""

from collections import Counter
from collections.abc import Callable, Iterator
from typing import Any

from bathys.plan.editing import Edit, EditRefused
from bathys.plan.model import GROUPS, Plan
from bathys.plan.vessel import Vessel

__all__ = [
    "ADDABLE", "add_part", "connect", "duplicate_part", "free_id", "move_along", "raise_part",
    "remove_part",
]  # fmt: skip

_DEFAULT_BORE = {"kind": "standard", "standard": "ASTM D1785 Schedule 40", "nominal": "1 in"}
_LETTERS = {"vessels": "V", "pumps": "P", "runs": "R", "siphons": "X", "outlets": "O",
            "junctions": "J", "top_ups": "W", "transfers": "Q"}  # fmt: skip
_JOBS = {
    "fish_tank": ("T", "Fish tank"),
    "grow_bed": ("B", "Grow bed"),
    "raft": ("G", "Raft"),
    "settler": ("C", "Settler"),
    "biofilter": ("F", "Biofilter"),
    "sump": ("S", "Sump"),
}
_GAP = 0.35  # beside the last vessel [m]


def free_id(plan: Plan, letter: str) -> str:
    """The first id of a letter that no part has."""
    number = 1
    while plan.part(f"{letter}{number}") is not None:
        number += 1
    return f"{letter}{number}"


def _known(plan: Plan, id_: str) -> Any:
    part = plan.part(id_)
    if part is None:
        raise EditRefused(f"There is no “{id_}” in this plan any more.")
    return part


def _usual_bore(plan: Plan) -> dict[str, Any]:
    counts = Counter(r.bore.model_dump_json() for r in plan.runs)
    if not counts:
        return dict(_DEFAULT_BORE)
    most = counts.most_common(1)[0][0]
    return next(
        r.bore.model_dump(mode="json") for r in plan.runs if r.bore.model_dump_json() == most
    )


def _wide(vessel: Vessel) -> float:
    shape = vessel.shape.model_dump()
    return float(shape.get("length") or shape.get("diameter") or 1.0)


def _right_end(plan: Plan) -> float:
    """Where the next vessel is drawn: right of all others [m]."""
    return max((v.along or 0.0) + _wide(v) for v in plan.vessels) + _GAP


def _vessel(plan: Plan, job: str, stands_in: str) -> Edit:
    letter, name = _JOBS[job]
    part: dict[str, Any] = {
        "id": free_id(plan, letter), "name": name, "job": job, "ports": [],
        "floor_height": 0.5 if job != "sump" else 0.0,
        "along": _right_end(plan),
        "shape": {"kind": "box", "length": 1.2, "width": 1.0,
                  "height": 0.35 if job in ("grow_bed", "raft") else 0.7},
    }  # fmt: skip
    if job == "grow_bed":
        part["media"] = {"kind": "expanded_clay", "top": 0.3, "void_fraction": 0.45}
    if job == "sump":
        part["water_depth"] = 0.5
    return Edit("vessels.+", part)


def _pump(plan: Plan, kind: str, stands_in: str) -> Edit:
    return Edit("pumps.+", {
        "id": free_id(plan, "P"), "name": "Pump", "stands_in": stands_in, "inlet_height": 0.05,
        "power": 20.0, "curve": {"kind": "label", "max_flow": 5e-4, "max_head": 2.0},
    })  # fmt: skip


def _bell(plan: Plan, kind: str, stands_in: str) -> Edit:
    tall = plan.vessel(stands_in).shape.height
    bore = {**_DEFAULT_BORE}
    part: dict[str, Any] = {"id": free_id(plan, "X"), "stands_in": stands_in, "kind": kind,
                            "name": f"{kind.capitalize()} siphon"}  # fmt: skip
    if kind == "loop":
        part |= {"bore": bore, "bulkhead_height": 0.03, "crest_height": 0.7 * tall}
    else:
        part |= {"standpipe_bore": bore, "bell_bore": {**bore, "nominal": "2 in"},
                 "rim_height": 0.75 * tall, "slot_height": 0.025, "slot_area": 0.0011,
                 "guard_diameter": 0.11}  # fmt: skip
    return Edit("siphons.+", part)


def _outlet(plan: Plan, kind: str, stands_in: str) -> Edit:
    tall = plan.vessel(stands_in).shape.height
    part: dict[str, Any] = {"id": free_id(plan, "O"), "stands_in": stands_in, "kind": kind}
    bore = {**_DEFAULT_BORE, "nominal": "1 1/2 in"}
    if kind == "standpipe":
        part |= {"name": "Standpipe", "bore": bore, "rim_height": 0.8 * tall}
    elif kind == "lift":
        part |= {"name": "Solids lift", "bore": {**bore, "nominal": "2 in"},
                 "intake_height": 0.02, "crest_height": 0.85 * tall}  # fmt: skip
    else:
        part |= {"name": "Drilled holes", "height": 0.8 * tall, "diameter": 0.02, "count": 4}
    return Edit("outlets.+", part)


def _junction(plan: Plan, kind: str, stands_in: str) -> Edit:
    heights = [j.height for j in plan.junctions] or [
        max(v.floor_height + v.shape.height for v in plan.vessels) + 0.1
    ]
    return Edit("junctions.+", {"id": free_id(plan, "J"), "name": kind.capitalize(), "kind": kind,
                                "height": heights[-1]})  # fmt: skip


def _float_valve(plan: Plan, kind: str, stands_in: str) -> Edit:
    vessel = plan.vessel(stands_in)
    level = vessel.water_depth or 0.7 * vessel.shape.height
    return Edit("top_ups.+", {"id": free_id(plan, "W"), "name": "Float valve", "kind": kind,
                              "stands_in": stands_in, "level": level, "flow": 5e-5})  # fmt: skip


ADDABLE: dict[str, tuple[str, bool, Callable[[Plan, str, str], Edit]]] = {
    **{job: (name.lower(), False, _vessel) for job, (_, name) in _JOBS.items()},
    "pump": ("pump", True, _pump), "bell": ("bell siphon", True, _bell),
    "loop": ("loop siphon", True, _bell), "standpipe": ("standpipe", True, _outlet),
    "lift": ("solids lift", True, _outlet), "holes": ("drilled holes", True, _outlet),
    "float_valve": ("float valve", True, _float_valve), "tee": ("tee", False, _junction),
    "wye": ("wye", False, _junction),
}  # fmt: skip
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


def _start_place(plan: Plan, id_: str) -> tuple[list[Edit], str]:
    part, group = _known(plan, id_), plan.group_of(id_)
    if group == "junctions":
        return [], id_
    if isinstance(part, Vessel):
        return _new_port(part, "outlet", 0.7 * part.shape.height)
    ending = {"pumps": "out", "outlets": "out", "siphons": "tail"}.get(group)
    if ending is None:
        raise EditRefused(f"No run can begin at {part.name}.")
    place = f"{id_}.{ending}"
    if plan.run_from(place) is not None:
        raise EditRefused(
            f"A run begins at {part.name} already; lead it to a tee, and branch off there."
        )
    return [], place


def _end_place(plan: Plan, id_: str) -> tuple[list[Edit], str]:
    part = _known(plan, id_)
    if plan.group_of(id_) == "junctions":
        return [], id_
    if not isinstance(part, Vessel):
        raise EditRefused(f"No run can end at {part.name}; name a vessel, a tee or a wye.")
    return _new_port(part, "inlet", part.shape.height + 0.03)


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
    run = {"id": id_, "name": f"{plan.part(start).name} to {plan.part(end).name}"[:80],
           "from": begins, "to": ends, "bore": _usual_bore(plan), "level_length": 1.0}  # fmt: skip
    return [*ports, *more, Edit("runs.+", run)], id_


def _dependents(plan: Plan, id_: str) -> Iterator[tuple[str, str]]:
    """A part and everything that cannot stand without it, with its list."""
    yield plan.group_of(id_), id_
    standing = (*plan.pumps, *plan.siphons, *plan.outlets, *plan.top_ups)
    for part in standing:
        if part.stands_in == id_:
            yield from _dependents(plan, part.id)
    for run in plan.runs:
        if id_ in {run.start.partition(".")[0], run.end.partition(".")[0]}:
            yield "runs", run.id
    for transfer in plan.transfers:
        if id_ in (transfer.source, transfer.target):
            yield "transfers", transfer.id


def remove_part(plan: Plan, id_: str) -> list[Edit]:
    """Take a part away, with what stands in it and the runs that touch it.

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        The part

    Returns
    -------
    list of Edit
        The edits

    Raises
    ------
    EditRefused
        If there is no such part, or it is the last vessel
    """
    _known(plan, id_)
    if [v.id for v in plan.vessels] == [id_]:
        raise EditRefused("The last vessel stays: a plan has at least one.")
    gone = dict.fromkeys(_dependents(plan, id_))
    names = {part for _, part in gone}
    loose = [Edit(f"junctions.{j.id}.straight", None) for j in plan.junctions
             if j.straight in names and j.id not in names]  # fmt: skip
    return [*loose, *(Edit(f"{group}.{part}", None) for group, part in gone)]


def duplicate_part(plan: Plan, id_: str) -> tuple[list[Edit], str]:
    """A second one of a part, beside it; a vessel with all that stands in it, no runs.

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        The part

    Returns
    -------
    (list of Edit, str)
        The edits, and the new part's id

    Raises
    ------
    EditRefused
        If it is a run: two runs cannot lead from one place
    """
    part, group = _known(plan, id_), plan.group_of(id_)
    if group in ("runs", "transfers"):
        raise EditRefused("A run leads from one place to another; lead a new one instead.")
    letter = id_.rstrip("0123456789") or _LETTERS[group]
    new = free_id(plan, letter)
    data = part.model_dump(mode="json", by_alias=True)
    data |= {"id": new, "name": f"{part.name} {new}"[:80]}
    if group == "junctions":
        data["straight"] = None
    edits = []
    if isinstance(part, Vessel):
        data["along"] = _right_end(plan)
    edits.append(Edit(f"{group}.+", data))
    if isinstance(part, Vessel):
        taken: set[str] = set()
        for kind in GROUPS:
            for inner in getattr(plan, kind):
                if getattr(inner, "stands_in", None) == id_:
                    own = free_id(plan, inner.id.rstrip("0123456789"))
                    while own in taken:
                        own = f"{own}a"
                    taken.add(own)
                    copy = inner.model_dump(mode="json", by_alias=True)
                    edits.append(Edit(f"{kind}.+", {**copy, "id": own, "stands_in": new}))
    return edits, new


_UPRIGHT = {"vessels": "floor_height", "junctions": "height"}


def raise_part(plan: Plan, id_: str, by: float) -> list[Edit]:
    """Set a vessel or a junction so much higher, or lower for less than 0 [m].

    Raises
    ------
    EditRefused
        If it is neither
    """
    part, group = _known(plan, id_), plan.group_of(id_)
    field = _UPRIGHT.get(group)
    if field is None:
        raise EditRefused(f"{part.name} stands in a vessel; raise that.")
    return [Edit(f"{group}.{id_}.{field}", round(getattr(part, field) + by, 6))]


def move_along(plan: Plan, id_: str, by: float) -> list[Edit]:
    """Draw a vessel or a junction so much further to the right, or to the left [m].

    Raises
    ------
    EditRefused
        If it is neither
    """
    part, group = _known(plan, id_), plan.group_of(id_)
    if group not in _UPRIGHT:
        raise EditRefused(f"{part.name} stands in a vessel; move that.")
    return [Edit(f"{group}.{id_}.along", round((part.along or 0.0) + by, 6))]
