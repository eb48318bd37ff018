"""Operations on whole parts: take away, raise, move along.

Each gives edits, so that all are applied, checked, undone and told in one way.
"""

from collections.abc import Iterator

from bathys.edits.editing import Edit, EditRefused
from bathys.edits.rerouting import known_part, ports_of_these
from bathys.plan.model import Plan
from bathys.vessels import spans_of

__all__ = ["move_along", "raise_part", "remove_part"]


def _dependents(plan: Plan, id_: str) -> Iterator[tuple[str, str]]:
    """A part and everything that cannot stand without it, with its list."""
    yield plan.group_of(id_), id_
    for part in plan.standing:
        if part.stands_in == id_:
            yield from _dependents(plan, part.id)
    for vessel in plan.vessels:
        if vessel.within == id_:
            yield from _dependents(plan, vessel.id)
    for run in plan.runs:
        if id_ in {run.source, run.target}:
            yield "runs", run.id
    for transfer in plan.transfers:
        if id_ in transfer.vessels:
            yield "transfers", transfer.id
    for stone in plan.air:
        if stone.fed_by == id_:
            yield "air", stone.id
    for top_up in plan.top_ups:
        if top_up.draws_from == id_:
            yield "top_ups", top_up.id


def remove_part(plan: Plan, id_: str) -> list[Edit]:
    """Take a part away, with what stands in it, the runs that touch it and the holes they leave.

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
    known_part(plan, id_)
    if [v.id for v in plan.vessels] == [id_]:
        raise EditRefused("The last vessel stays: a plan has at least one.")
    gone = dict.fromkeys(_dependents(plan, id_))
    names = {part for _, part in gone}
    loose = [
        Edit(f"junctions.{j.id}.straight", None)
        for j in plan.junctions
        if j.straight in names and j.id not in names
    ]
    holes = [
        Edit(f"vessels.{vessel}.ports.{port}", None)
        for vessel, port in ports_of_these(plan, names)
        if vessel not in names
    ]
    return [*loose, *holes, *(Edit(f"{group}.{part}", None) for group, part in gone)]


_UPRIGHT = {"vessels": "floor_height", "junctions": "height"}


def raise_part(plan: Plan, id_: str, by: float) -> list[Edit]:
    """Set a vessel or a junction so much higher, or lower for less than 0 [m].

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        Id of the part
    by : float
        How far, [m]

    Returns
    -------
    list of Edit
        The edits that do so

    Raises
    ------
    EditRefused
        If it is neither
    """
    part, group = known_part(plan, id_), plan.group_of(id_)
    field = _UPRIGHT.get(group)
    if field is None:
        raise EditRefused(f"{part.name} stands in a vessel; raise that.")
    return [Edit(f"{group}.{id_}.{field}", round(getattr(part, field) + by, 6))]


def move_along(plan: Plan, id_: str, by: float) -> list[Edit]:
    """Draw a vessel or a junction so much further to the right, or to the left [m]; the others
    stay where they are drawn.

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        Id of the part
    by : float
        How far, [m]

    Returns
    -------
    list of Edit
        The edits that do so

    Raises
    ------
    EditRefused
        If it is neither
    """
    part, group = known_part(plan, id_), plan.group_of(id_)
    if group == "junctions":
        return [Edit(f"junctions.{id_}.along", round((part.along or 0.0) + by, 6))]
    if group != "vessels":
        raise EditRefused(f"{part.name} stands in a vessel; move that.")
    drawn = {v: left for v, (left, _) in spans_of(plan).items()}
    drawn[id_] += by
    moved = {v.id for v in plan.vessels if v.along is None} | {id_}
    return [Edit(f"vessels.{v}.along", round(drawn[v], 6)) for v in drawn if v in moved]
