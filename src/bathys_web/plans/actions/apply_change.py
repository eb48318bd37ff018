"""Make a change that the engine has worked out: a remedy, valve settings, a pump, a gain."""

from collections.abc import Callable, Sequence

from django.contrib.auth.models import User

from bathys.edits import Edit, apply_edits
from bathys.plan import Plan
from bathys_web.plans.actions.add_revision import add_revision
from bathys_web.plans.models import Revision, SavedPlan

__all__ = ["Offered", "apply_change"]

Offered = tuple[Sequence[Edit], str]
"""Edits, and what they change in words."""


def apply_change(
    saved: SavedPlan, user: User, base: int, offered: Callable[[Plan], Offered]
) -> Revision:
    """Apply edits as a new revision.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who applies them
    base : int
        Number of the revision they looked at
    offered : callable
        From the plan to the edits and what they change in words

    Returns
    -------
    Revision
        The revision that stands now

    Raises
    ------
    EditRefused
        If the offer no longer stands, or the plan does not bear it
    PermissionDenied, StaleEdit
        As :func:`add_revision`
    """

    def edit(plan: Plan) -> tuple[Plan, str]:
        edits, words = offered(plan)
        return apply_edits(plan, edits), words[:1].upper() + words[1:]

    return add_revision(saved, user, base, edit)
