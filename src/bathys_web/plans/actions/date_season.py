"""Keep the day on which a plan's first season begins."""

from datetime import date

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys_web.plans.models import SavedPlan

__all__ = ["date_season"]


def date_season(saved: SavedPlan, user: User, day: date | None) -> None:
    """Keep it, or forget it.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    day : date or None
        The day on which it is filled

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    SavedPlan.objects.filter(pk=saved.pk).update(fills_on=day)
