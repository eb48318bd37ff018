"""Parts of a builder's own, put in the place of what a plan has."""

from collections.abc import Iterable
from typing import Any

from bathys.edits.editing import Edit, EditRefused
from bathys.edits.rerouting import known_part
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.stock import AirSource
from bathys.plan.vessel import Vessel
from bathys.shelf import ShelfPart

__all__ = ["own_parts_for", "use_own_part"]


def own_parts_for(part: object, own: Iterable[ShelfPart]) -> tuple[ShelfPart, ...]:
    """Parts of one's own that may take a part's place.

    Parameters
    ----------
    part : Part
        A part of a plan
    own : iterable of ShelfPart
        All that the builder has

    Returns
    -------
    tuple of ShelfPart
        Those that may
    """
    kind = _kind_for(part)
    return tuple(o for o in own if o.kind == kind)


def _kind_for(part: object) -> str:
    if isinstance(part, AirSource):
        return "air_pump"
    if isinstance(part, Run):
        return "bore"
    if isinstance(part, Vessel) and part.media is not None:
        return "medium"
    return ""


def use_own_part(plan: Plan, id_: str, own: ShelfPart) -> list[Edit]:
    """Put a part of one's own in a part's place.

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        Id of the part
    own : ShelfPart
        What takes its place

    Returns
    -------
    list of Edit
        The edits

    Raises
    ------
    EditRefused
        If it cannot take that place
    """
    part = known_part(plan, id_)
    if own.kind != _kind_for(part):
        raise EditRefused("Choose one of your own parts that suits this one.")
    if isinstance(part, Run):
        bore = {"kind": "inside", "diameter": own.number("inside"), "outer": own.number("outside")}
        return [Edit(f"runs.{id_}.bore", bore)]
    if isinstance(part, Vessel):
        told: dict[str, Any] = {
            "kind": own.word("like"),
            "void_fraction": own.number("void"),
            "smallest_grain": own.number("grain"),
        }
        return [Edit(f"vessels.{id_}.media.{field}", value) for field, value in told.items()]
    figures = {field: own.number(field) for field in ("max_flow", "max_pressure", "power")}
    return [
        Edit(f"air_pumps.{id_}.{field}", value)
        for field, value in {"name": own.name, **figures}.items()
    ]
