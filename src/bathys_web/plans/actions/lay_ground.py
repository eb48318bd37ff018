"""Change the ground plan of a plan."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.contrib.auth.models import User

from bathys.edits import Edit, EditRefused, apply_edits
from bathys.ground import follow_route, lay, lay_route, outline_site, placed, site_of
from bathys.plan import Plan
from bathys_web.plans.actions.add_revision import add_revision
from bathys_web.plans.models import Revision, SavedPlan

__all__ = ["ADDABLE_MARKS", "GroundChange", "change_ground"]

ADDABLE_MARKS: dict[str, tuple[str, float, float]] = {
    "obstacle": ("obstacle", 1.0, 1.0),
    "door": ("door", 0.9, 0.2),
    "path": ("path", 2.0, 0.8),
    "tap": ("tap", 0.2, 0.2),
    "power": ("power point", 0.2, 0.2),
}
"""Name, and length and width as they are put down [m]."""

XY = tuple[float, float]


@dataclass(frozen=True, slots=True)
class GroundChange:
    """What is to be done.

    Attributes
    ----------
    verb : str
        ``place``, ``route``, ``straight``, ``follow``, ``keep``, ``follow_all``, ``site``,
        ``outline``, ``mark``, ``size_mark``, ``move_mark`` or ``drop_mark``
    part : str
        Id of the part, of the mark, or kind of a new mark
    numbers : tuple of float
        Places and sizes in the order of the verb, [m], and a turn, [degrees]
    heights : tuple of float or None
        Of a route's corners, [m]; none for as high as before it
    """

    verb: str
    part: str = ""
    numbers: tuple[float, ...] = ()
    heights: tuple[float | None, ...] = ()


def change_ground(saved: SavedPlan, user: User, base: int, change: GroundChange) -> Revision:
    """Change it as a new revision.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who asks
    base : int
        Number of the revision they looked at
    change : GroundChange
        What is to be done

    Returns
    -------
    Revision
        The revision that stands now

    Raises
    ------
    EditRefused
        With a sentence, if it cannot be done
    PermissionDenied, StaleEdit
        As :func:`add_revision`
    """

    def edit(plan: Plan) -> tuple[Plan, str]:
        do = _VERBS.get(change.verb)
        if do is None:
            raise EditRefused("This cannot be done on a ground plan.")
        return do(plan, change)

    return add_revision(saved, user, base, edit)


def _named(plan: Plan, id_: str) -> str:
    return plan.names.get(id_, id_)


def _place(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    x, y, *turned = change.numbers
    after = lay(plan, change.part, x, y, turned[0] if turned else None)
    return after, f"{_named(plan, change.part)} placed at {x:.2f} m, {y:.2f} m on the ground"


def _route(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    numbers = change.numbers
    corners = list(zip(numbers[::2], numbers[1::2], strict=True))
    words = f"{_named(plan, change.part)} led by {len(corners)} corner(s) on the ground"
    return lay_route(plan, change.part, corners, change.heights), words


def _straight(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    after = lay_route(plan, change.part, None)
    return after, f"{_named(plan, change.part)} led the shortest way on the ground"


def _follow(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    after = follow_route(plan, [change.part], True)
    return after, f"{_named(plan, change.part)}: length from the ground plan"


def _keep(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    after = follow_route(plan, [change.part], False)
    return after, f"{_named(plan, change.part)}: length as typed"


def _follow_all(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    after = follow_route(plan, [r.id for r in plan.runs], True)
    return after, "All lengths from the ground plan"


def _ground(plan: Plan) -> dict[str, Any]:
    """The site as data; as large as what stands on it where none is told."""
    return site_of(plan, placed(plan))[0].model_dump(mode="json")


def _site(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    length, width = change.numbers
    data = {**_ground(plan), "length": length, "width": width, "outline": []}
    return apply_edits(plan, [Edit("ground", data)]), f"Site {length:.2f} m by {width:.2f} m"


def _outline(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    numbers = change.numbers
    corners = list(zip(numbers[::2], numbers[1::2], strict=True))
    words = f"Site outlined by {len(corners)} corners" if corners else "Site is a rectangle"
    return outline_site(plan, corners), words


def _mark(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    if change.part not in ADDABLE_MARKS:
        raise EditRefused("Choose what to put down.")
    name, length, width = ADDABLE_MARKS[change.part]
    data = _ground(plan)
    taken = {m["id"] for m in data["marks"]}
    id_ = next(f"M{n}" for n in range(1, 1000) if f"M{n}" not in taken)
    mark = {
        "id": id_,
        "kind": change.part,
        "name": "",
        "x": round(0.5 * data["length"], 2),
        "y": round(max(0.5 * width, 0.3), 2),
        "length": length,
        "width": width,
    }
    data["marks"] = [*data["marks"], mark]
    return apply_edits(plan, [Edit("ground", data)]), f"{name.capitalize()} put on the ground plan"


def _of_mark(
    plan: Plan, id_: str, do: Callable[[dict[str, Any]], dict[str, Any] | None], words: str
) -> tuple[Plan, str]:
    data = _ground(plan)
    if all(m["id"] != id_ for m in data["marks"]):
        raise EditRefused("It is not on the ground plan any more.")
    marks = (do(m) if m["id"] == id_ else m for m in data["marks"])
    data["marks"] = [m for m in marks if m is not None]
    kind = next(m.kind for m in plan.ground.marks if m.id == id_) if plan.ground else ""
    name = ADDABLE_MARKS[kind][0].capitalize() if kind in ADDABLE_MARKS else "Mark"
    return apply_edits(plan, [Edit("ground", data)]), f"{name} {words} on the ground plan"


def _move_mark(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    x, y = change.numbers
    return _of_mark(plan, change.part, lambda m: {**m, "x": round(x, 3), "y": round(y, 3)}, "moved")


def _size_mark(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    x, y, length, width = change.numbers
    new = {"x": x, "y": y, "length": length, "width": width}
    return _of_mark(plan, change.part, lambda m: {**m, **new}, "measured")


def _drop_mark(plan: Plan, change: GroundChange) -> tuple[Plan, str]:
    return _of_mark(plan, change.part, lambda m: None, "taken away")


_VERBS: dict[str, Callable[[Plan, GroundChange], tuple[Plan, str]]] = {
    "place": _place,
    "route": _route,
    "straight": _straight,
    "follow": _follow,
    "keep": _keep,
    "follow_all": _follow_all,
    "site": _site,
    "outline": _outline,
    "mark": _mark,
    "move_mark": _move_mark,
    "size_mark": _size_mark,
    "drop_mark": _drop_mark,
}
