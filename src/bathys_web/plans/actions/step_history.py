"""Undo, redo, and back to any revision: move a plan's head along its revisions."""

from django.contrib.auth.models import User
from django.db import transaction

from bathys.edits import EditRefused
from bathys_web.plans.actions.add_revision import locked_plan
from bathys_web.plans.models import Revision, SavedPlan

__all__ = ["go_to", "newest_child", "redo", "undo"]


def newest_child(revision: Revision) -> Revision | None:
    """The revision that redo would go to; a plan's last one has none.

    Parameters
    ----------
    revision : Revision
        The revision

    Returns
    -------
    Revision or None
        The revision, or none
    """
    if revision.number == revision.plan.last_number:
        return None
    return revision.children.defer("document").order_by("-number").first()


@transaction.atomic
def undo(saved: SavedPlan, user: User, base: int) -> Revision:
    """Go back to the revision before.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    base : int
        Number of the revision they looked at

    Returns
    -------
    Revision
        The revision that stands now

    Raises
    ------
    PermissionDenied, StaleEdit
        As :func:`locked_plan`
    """
    held = locked_plan(saved, user, base)
    return _move(held, held.current.parent)


@transaction.atomic
def redo(saved: SavedPlan, user: User, base: int) -> Revision:
    """Go forward to the newest revision made from this one; as :func:`undo` otherwise.

    Parameters
    ----------
    saved : SavedPlan
        The plan as stored
    user : User
        Who asks
    base : int
        Number of the revision it was made on

    Returns
    -------
    Revision
        The revision gone to
    """
    held = locked_plan(saved, user, base)
    return _move(held, newest_child(held.current))


@transaction.atomic
def go_to(saved: SavedPlan, user: User, base: int, number: int) -> Revision:
    """Go to the revision with a number, wherever it branched off; as :func:`undo` otherwise.

    Parameters
    ----------
    saved : SavedPlan
        The plan as stored
    user : User
        Who asks
    base : int
        Number of the revision it was made on
    number : int
        Its number

    Returns
    -------
    Revision
        The revision gone to

    Raises
    ------
    EditRefused
        If the plan has no such revision
    """
    held = locked_plan(saved, user, base)
    found = held.revisions.filter(number=number).first()
    if found is None:
        raise EditRefused("This plan has no such revision.")
    return _move(held, found)


def _move(held: SavedPlan, to: Revision | None) -> Revision:
    if to is not None:
        held.head = to
        held.save()
    return held.current
