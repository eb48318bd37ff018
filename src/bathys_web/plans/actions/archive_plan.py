"""Put a plan into the archive, or take it out again."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys_web.plans.models import SavedPlan

__all__ = ["archive_plan"]


def archive_plan(saved: SavedPlan, user: User, *, archived: bool) -> None:
    """Put a plan into the archive, or take it out; it is not changed otherwise.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    archived : bool
        Whether it is to be in the archive

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    # Not by ``save``, which would make it the plan that was changed last.
    SavedPlan.objects.filter(pk=saved.pk).update(is_archived=archived)
