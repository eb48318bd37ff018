"""Edits: each takes a plan and gives the next one, with the change told as data."""

from collections.abc import Sequence
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from bathys.kinds import model_named
from bathys.plan.base import Headed, Part
from bathys.plan.loading import BadPlan, plan_with_changes
from bathys.plan.model import GROUPS, Plan
from bathys.plan.pipes import Run

__all__ = [
    "Change",
    "Edit",
    "EditRefused",
    "apply_edits",
    "set_fitting_count",
    "set_value",
]


class EditRefused(ValueError):
    """An edit that would leave no plan; its message is a sentence for the builder.

    Attributes
    ----------
    bound : (str, float, float) or None
        Of the edited number, if it is out of its bounds: which bound, its value and the number, in
        SI, for a sentence in the builder's units
    """

    def __init__(self, sentence: str, bound: tuple[str, float, float] | None = None) -> None:
        super().__init__(sentence)
        self.bound = bound


VOLUME = "shape.volume"
"""What a shell's volume is typed for: no field of the file, since its sizes say it."""

_OWN = ("brief", "site")


@dataclass(frozen=True, slots=True)
class Change:
    """An edit that was made.

    Attributes
    ----------
    plan : Plan
        The plan after it
    path : str
        What was changed
    before, after : object
        Its value before and after
    """

    plan: Plan
    path: str
    before: Any
    after: Any


def _document(plan: Plan) -> dict[str, Any]:
    """A plan's fields, its lists of parts open to change; what an edit comes to is made plain data
    on the way."""
    fields = {name: getattr(plan, name) for name in Plan.model_fields}
    return {n: list(f) if n in GROUPS else f for n, f in fields.items()}


def _name_in_list(part: dict[str, Any] | Headed) -> Any:
    """What a path calls a part of a list by: its id; a port's name, a fitting's kind."""
    if isinstance(part, Headed):
        return part.id
    return part.get("id", part.get("name", part.get("kind")))


def _plain(found: Any) -> Any:
    return found.model_dump(mode="json", by_alias=True) if isinstance(found, Part) else found


def _step(here: Any, word: str) -> Any:
    if isinstance(here, list):
        for number, part in enumerate(here):
            if _name_in_list(part) == word:
                here[number] = _plain(part)
                return here[number]
        raise EditRefused(f"There is no “{word}” in this plan any more.")
    if not isinstance(here, dict) or word not in here:
        raise EditRefused(f"There is no “{word}” in this plan.")
    here[word] = _plain(here[word])
    return here[word]


def _apply(plan: Plan, path: str, value: Any, typed: str = "", typed_field: str = "") -> Change:
    data = _document(plan)
    before = _put(data, path, value)
    found = _part_with(data, path)
    if typed and before != value and found is not None:
        part, field = found
        told = {"field": typed_field or field, "text": typed}
        part["typed"] = [*(part.get("typed") or ()), told]
    try:
        return Change(plan_with_changes(plan, data), path, before, value)
    except BadPlan as bad:
        first = bad.faults[0]
        bound = first.bound if first.path == path else None
        raise EditRefused(_reason(bad, path), bound) from None


def _reason(bad: BadPlan, path: str) -> str:
    fault = bad.faults[0]
    return fault.sentence if fault.path == path else f"{fault.sentence} ({fault.path})"


@dataclass(frozen=True)
class Edit:
    """One step of a change that is worked out before it is made.

    Attributes
    ----------
    path : str
        Field to set, such as ``runs.R1.valve``; ``runs.+`` adds a part to a list, ``runs.R1``
        puts another in a part's place, or none
    value : object
        Its new value as plain data, numbers in SI
    """

    path: str
    value: Any


def apply_edits(plan: Plan, edits: Sequence[Edit]) -> Plan:
    """The plan after several edits, checked once at their end.

    Parameters
    ----------
    plan : Plan
        The plan before
    edits : sequence of Edit
        The edits, in order

    Returns
    -------
    Plan
        The plan after

    Raises
    ------
    EditRefused
        If a field is not there or the plan would not hold together
    """
    data = _document(plan)
    for edit in edits:
        _put(data, edit.path, deepcopy(edit.value))  # later edits change it within the document
    try:
        return plan_with_changes(plan, data)
    except BadPlan as bad:
        raise EditRefused(_reason(bad, "")) from None


def _put(data: dict[str, Any], path: str, value: Any) -> Any:
    """Set a field of a document; gives what stood there."""
    *way, last = path.split(".")
    here: Any = data
    for word in way:
        here = _step(here, word)
    if isinstance(here, list):
        return _put_part(here, last, value)
    if not isinstance(here, dict) or last not in here:
        raise EditRefused(f"There is no “{path}” in this plan.")
    before, here[last] = _plain(here[last]), value
    _forget_typed(data, path)
    return before


def _part_with(data: dict[str, Any], path: str) -> tuple[dict[str, Any], str] | None:
    """The part that a field belongs to, and the field within it: the plan's brief and site are
    such, too; none for its name."""
    group, _, rest = path.partition(".")
    if group in _OWN and rest:
        data[group] = _plain(data[group])
        return data[group], rest
    id_, _, field = rest.partition(".")
    return (_step(data[group], id_), field) if group in GROUPS and field else None


def _forget_typed(data: dict[str, Any], path: str) -> None:
    """What was typed for a field, or within it, says nothing of its next value."""
    found = _part_with(data, path)
    if found is not None:
        part, field = found
        kept = [
            t
            for t in part.get("typed") or ()
            if not f"{t['field']}.".startswith(f"{field}.")
            and not f"{field}.".startswith(f"{t['field']}.")
            and not (t["field"] == VOLUME and field.startswith("shape."))
        ]
        if kept or part.get("typed"):
            part["typed"] = kept


def _put_part(parts: list[Any], id_: str, value: Any) -> Any:
    """Add a part to a list, or put another in the place of one, or take it away."""
    if id_ == "+":
        parts.append(value)
        return None
    before = _step(parts, id_)
    at = parts.index(before)
    parts[at : at + 1] = [] if value is None else [value]
    return before


def set_value(plan: Plan, path: str, value: Any, typed: str = "", typed_field: str = "") -> Change:
    """Set one field.

    Parameters
    ----------
    plan : Plan
        The plan before
    path : str
        Such as ``vessels.B1.floor_height`` or ``site.tariff``
    value : object
        The new value, numbers in SI
    typed : str
        What was typed for it, where that says more than the value: it is kept beside it until
        something else changes the value
    typed_field : str
        The field of the part that it was typed for, if that is another: a shell's volume, which
        sets one of its sizes

    Returns
    -------
    Change
        The plan after, and what changed

    Raises
    ------
    EditRefused
        If there is no such field or the plan would not hold together
    """
    return _apply(plan, path, value, typed, typed_field)


def _begun(run: Run, kind: str) -> dict[str, Any]:
    """A fitting as it is on a run, or as it begins there."""
    for fitting in run.fittings:
        if fitting.kind == kind:
            return fitting.model_dump()
    model = model_named("fittings", kind)
    return model.usual(kind, run.bore) if model is not None else {}


def set_fitting_count(plan: Plan, run: str, kind: str, count: int) -> Change:
    """Set how many fittings of a kind a run has; none takes the kind off.

    Parameters
    ----------
    plan : Plan
        The plan before
    run : str
        The run's id
    kind : str
        A kind of fitting
    count : int
        How many, from 0

    Returns
    -------
    Change
        The plan after, and what changed

    Raises
    ------
    EditRefused
        If there is no such run or kind, or the count is out of range
    """
    old = next((r for r in plan.runs if r.id == run), None)
    if old is None:
        raise EditRefused(f"There is no run called {run} in this plan any more.")
    rows = [f.model_dump() for f in old.fittings if f.kind != kind]
    before = sum(f.count for f in old.fittings if f.kind == kind)
    if count:
        place = next((i for i, f in enumerate(old.fittings) if f.kind == kind), len(rows))
        rows.insert(place, {**_begun(old, kind), "kind": kind, "count": count})
    change = _apply(plan, f"runs.{run}.fittings", rows)
    return Change(change.plan, f"runs.{run}.fittings.{kind}", before, count)
