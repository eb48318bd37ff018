"""Delete a plan for good."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys_web.plans.models import SavedPlan

__all__ = ["delete_plan"]


@transaction.atomic
def delete_plan(saved: SavedPlan, user: User) -> None:
    """Delete a plan and all its revisions.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    saved.head = None
    saved.save()
    saved.delete()
