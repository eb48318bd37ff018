"""What two plans differ in, field by field."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from bathys.plan.model import GROUPS, Plan

__all__ = ["Difference", "differences", "only_places_differ"]


@dataclass(frozen=True, slots=True)
class Difference:
    """One field that is not the same.

    Attributes
    ----------
    part : str
        Id of the part; empty for the plan itself
    path : str
        The field within the part, such as ``shape.height``; empty for a part only one plan has
    before, after : object
        Its value in either plan, as plain data; none where the plan has no such part or field
    """

    part: str
    path: str
    before: Any
    after: Any


_NAMES = {"name", "kind"}
"""What tells rows of a list apart; a list whose rows have neither is one value."""


def _flat(value: Any, path: str = "") -> Iterator[tuple[str, Any]]:
    if isinstance(value, dict):
        for name, inner in value.items():
            if name == "typed" and not path:
                continue  # other words for a value that is the same, or told itself
            yield from _flat(inner, f"{path}.{name}" if path else name)
    elif isinstance(value, list) and value and _NAMES & set(value[0]):
        for inner in value:
            own = "name" if "name" in inner else "kind"
            rest = {field: v for field, v in inner.items() if field != own}
            yield from _flat(rest, f"{path}.{inner[own]}")
    else:
        yield path, value


def _fields(one: dict[str, Any], two: dict[str, Any], part: str) -> Iterator[Difference]:
    before, after = dict(_flat(one)), dict(_flat(two))
    for path in {**before, **after}:
        if before.get(path) != after.get(path):
            yield Difference(part, path, before.get(path), after.get(path))


def differences(one: Plan, two: Plan) -> tuple[Difference, ...]:
    """Fields that two plans differ in.

    Parameters
    ----------
    one, two : Plan
        The plans

    Returns
    -------
    tuple of Difference
        The plan's own fields first, then part by part
    """
    first, second = (p.model_dump(mode="json", by_alias=True) for p in (one, two))
    found = list(
        _fields(
            {k: v for k, v in first.items() if k not in GROUPS},
            {k: v for k, v in second.items() if k not in GROUPS},
            "",
        )
    )
    for group in GROUPS:
        before = {p["id"]: p for p in first[group]}
        after = {p["id"]: p for p in second[group]}
        for id_ in {**before, **after}:
            if id_ not in after or id_ not in before:
                found.append(
                    Difference(
                        id_, "", before.get(id_, {}).get("name"), after.get(id_, {}).get("name")
                    )
                )
            else:
                found += _fields(before[id_], after[id_], id_)
    return tuple(found)


_PLACES = {"spot", "route", "typed"}
"""Where a part stands on the ground, how it is led there, and what was typed for either."""


def only_places_differ(one: Plan, two: Plan) -> bool:
    """Whether two plans have the same water: the same but for places and ways on the ground, and
    the site.

    Parameters
    ----------
    one, two : Plan
        The plans; parts that they share are not looked into

    Returns
    -------
    bool
        Whether no flow, level or name differs
    """
    for field in Plan.model_fields:
        before, after = getattr(one, field), getattr(two, field)
        if before is after or field == "ground":
            continue
        if field not in GROUPS:
            if before != after:
                return False
            continue
        if len(before) != len(after):
            return False
        if not all(p is q or _same_but_place(p, q) for p, q in zip(before, after, strict=True)):
            return False
    return True


def _same_but_place(one: Any, two: Any) -> bool:
    return type(one) is type(two) and all(
        getattr(one, field) == getattr(two, field)
        for field in type(one).model_fields
        if field not in _PLACES
    )
