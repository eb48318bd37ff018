"""Plan files as data that a test can spoil."""

import json
from pathlib import Path
from typing import Any

from bathys.plan import GROUPS, Plan, from_file

__all__ = ["lists_of", "unlike_parts"]


def lists_of(path: Path) -> dict[str, Any]:
    """What a plan file says, its parts in one list for each kind of job."""
    data: dict[str, Any] = from_file(json.loads(path.read_text()))
    return {**data, **{group: data.get(group, []) for group in GROUPS}}


def unlike_parts(plan: Plan) -> list[str]:
    """Ids of parts, of those alike the first: twelve beds in a row answer alike."""
    firsts: dict[tuple[Any, ...], str] = {}
    for group in GROUPS:
        for part in getattr(plan, group):
            ends = [getattr(part, end, "") for end in ("source", "target", "stands_in")]
            holders = [p for p in plan.ways_out if p.stands_in == part.id]
            likeness = (
                _kind(part),
                *(_kind(plan.part(end)) if end else None for end in ends),
                *sorted(str(_kind(p)) for p in holders),
                type(getattr(part, "valve", None)),
            )
            firsts.setdefault(likeness, part.id)
    return list(firsts.values())


def _kind(part: Any) -> tuple[type, str]:
    return type(part), str(getattr(part, "job", ""))
