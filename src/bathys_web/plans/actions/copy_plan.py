"""Store a variant of a plan beside it."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys.edits import Edit, apply_edits
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["copy_plan"]

_LONGEST_NAME = 80
_SUFFIX = ", variant"


def copy_plan(revision: Revision, user: User) -> SavedPlan:
    """Save a revision as a plan of its own; both are changed apart from then on.

    Parameters
    ----------
    revision : Revision
        What is copied
    user : user
        Who asks

    Returns
    -------
    SavedPlan
        The variant's place

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if revision.plan.owner_id != user.pk:
        raise PermissionDenied
    plan = plan_of(revision)
    name = plan.name.removesuffix(_SUFFIX)[: _LONGEST_NAME - len(_SUFFIX)] + _SUFFIX
    variant = apply_edits(plan, [Edit("name", name)])
    what = f"copied from “{plan.name}”, revision {revision.number}"
    saved = create_plan(user, variant, what, revision)
    saved.brief = revision.plan.brief
    saved.save(update_fields=["brief"])
    return saved
