"""Add a revision to a plan, unless it was changed meanwhile."""

from collections.abc import Callable

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys.edits import EditRefused
from bathys.network import NotSolved
from bathys.plan import Plan, document_hash, physics_hash
from bathys_web.plans.headlines import headlines_document
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.storing import (
    assessment_of_plan,
    document_of,
    keep_plan,
    plan_of,
)

__all__ = ["StaleEdit", "add_revision", "locked_plan"]


class StaleEdit(Exception):
    """The edit was made on a revision that is no longer the newest.

    Attributes
    ----------
    newest : Revision
        The revision that stands now
    """

    def __init__(self, newest: Revision) -> None:
        super().__init__("the plan was changed meanwhile")
        self.newest = newest


def locked_plan(saved: SavedPlan, user: User, base: int) -> SavedPlan:
    """The plan, locked until the transaction ends.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who wants to write
    base : int
        Number of the revision they looked at

    Returns
    -------
    SavedPlan
        The same plan, with its head as it stands now

    Raises
    ------
    PermissionDenied
        If it is not theirs
    StaleEdit
        If another revision stands by now
    """
    # Locked first and read then: a head that is joined to the lock is read before the wait for it.
    held = SavedPlan.objects.select_for_update().get(pk=saved.pk)
    if held.head_id is not None and held.head_id == saved.head_id:
        held.head = saved.head  # a revision never changes
    elif held.head_id is not None:
        # Most often the plan itself is at hand.
        held.head = Revision.objects.defer("document").get(pk=held.head_id)
    if held.owner_id != user.pk:
        raise PermissionDenied
    if held.current.number != base:
        raise StaleEdit(held.current)
    return held


@transaction.atomic
def add_revision(
    saved: SavedPlan, user: User, base: int, edit: Callable[[Plan], tuple[Plan, str]]
) -> Revision:
    """Apply an edit to the newest revision and keep the result as the next one.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who edits
    base : int
        Number of the revision they looked at
    edit : callable
        From the plan to the next plan and what changed, in words

    Returns
    -------
    Revision
        The revision that stands now; the old one if the edit changed nothing

    Raises
    ------
    PermissionDenied, StaleEdit
        As :func:`locked_plan`
    EditRefused
        As the edit; or if what it makes cannot be worked out
    """
    held = locked_plan(saved, user, base)
    before = plan_of(held.current)
    plan, what = edit(before)
    try:
        found = assessment_of_plan(plan)
    except NotSolved as error:
        raise EditRefused(f"This cannot be calculated: {error}.") from None
    name = document_hash(plan)
    if name == held.current.content_hash or plan == before:  # names of older rows say more or less
        return held.current
    held.last_number += 1
    held.head = Revision.objects.create(
        plan=held,
        number=held.last_number,
        parent=held.head,
        document=document_of(plan),
        what_changed=what[:300],
        author=user,
        content_hash=name,
        physics_hash=physics_hash(plan),
        headlines=headlines_document(found),
    )
    held.save(update_fields=["head", "last_number", "touched"])
    keep_plan(name, plan)
    return held.current
