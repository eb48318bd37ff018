"""Edit one field of a plan by what was typed."""

from django.contrib.auth.models import User

from bathys.drawing.stations import stations_of
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.actions.add_revision import add_revision
from bathys_web.plans.inspector import Row, apply_row, find_row, shown_value
from bathys_web.plans.models import Revision, SavedPlan

__all__ = ["edit_field"]


def edit_field(saved: SavedPlan, user: User, base: int, row: Row, units: System) -> Revision:
    """Edit one field, as a new revision.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who edits
    base : int
        Number of the revision they looked at
    row : Row
        The field, with what was typed in it
    units : {"metric", "us"}
        The system they were shown

    Returns
    -------
    Revision
        The revision that stands now

    Raises
    ------
    EditRefused
        With a sentence, if what was typed makes no plan or one that cannot be worked out
    PermissionDenied, StaleEdit
        As :func:`add_revision`
    """

    def edit(plan: Plan) -> tuple[Plan, str]:
        change = apply_row(plan, row, units)
        changed = change.plan
        # What is put on is told as what it is, not as the box it was picked in.
        path = change.path if row.kind == "pick" else row.path
        return changed, _what_changed(plan, changed, path, units)

    return add_revision(saved, user, base, edit)


def _what_changed(before: Plan, after: Plan, path: str, units: System) -> str:
    old, new = find_row(before, path, units), find_row(after, path, units)
    if old is None or new is None:
        return path
    names = {s.id: s.name for s in stations_of(after)}
    owner = next((names[word] for word in path.split(".") if word in names), "")
    lead = f"{owner}: {old.label[:1].lower()}{old.label[1:]}" if owner else old.label
    void = _void_moved(before, after, path, units) if path.endswith(".media.kind") else ""
    return f"{lead} {shown_value(old)} → {shown_value(new)}{void}"


def _void_moved(before: Plan, after: Plan, path: str, units: System) -> str:
    """What another medium does to the void fraction, which comes with it."""
    inner = f"{path.removesuffix('.kind')}.void_fraction"
    old, new = find_row(before, inner, units), find_row(after, inner, units)
    if new is None:
        return ""
    was = f" instead of {shown_value(old)}" if old is not None else ""
    return f", with its usual void fraction of {shown_value(new)}{was}"
