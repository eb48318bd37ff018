"""Store a plan as it was built, as a variant beside the one that was planned."""

from collections.abc import Sequence

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys.edits import Edit, apply_edits
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["keep_as_built"]

_LONGEST_NAME = 80
_SUFFIX = ", as built"


@transaction.atomic
def keep_as_built(revision: Revision, user: User, edits: Sequence[Edit]) -> SavedPlan:
    """Make the variant.

    Parameters
    ----------
    revision : Revision
        The plan as it was planned
    user : User
        Who asks
    edits : sequence of Edit
        What its log says of it

    Returns
    -------
    SavedPlan
        The variant

    Raises
    ------
    PermissionDenied
        If it is not theirs
    EditRefused
        If the plan does not bear the edits
    """
    if revision.plan.owner_id != user.pk:
        raise PermissionDenied
    plan = plan_of(revision)
    name = plan.name.removesuffix(_SUFFIX)[: _LONGEST_NAME - len(_SUFFIX)] + _SUFFIX
    built = apply_edits(plan, [*edits, Edit("name", name)])
    what = f"as built, by the log of “{plan.name}”, revision {revision.number}"
    return create_plan(user, built, what, revision)
