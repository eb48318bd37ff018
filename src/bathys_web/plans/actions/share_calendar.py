"""Give a plan's calendar an address that needs no account, or take it back."""

from uuid import uuid4

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys_web.plans.models import SavedPlan

__all__ = ["share_calendar"]


def share_calendar(saved: SavedPlan, user: User, is_shared: bool) -> None:
    """Share it, or share it no longer: an address that was taken back never works again.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who asks
    is_shared : bool
        Whether it is to have an address

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    if not is_shared:
        SavedPlan.objects.filter(pk=saved.pk).update(calendar=None)
    elif saved.calendar is None:
        SavedPlan.objects.filter(pk=saved.pk, calendar=None).update(calendar=uuid4())
