"""Lock the size of a part, or unlock it."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["lock_part"]


@transaction.atomic
def lock_part(saved: SavedPlan, user: User, part: str, *, locked: bool) -> None:
    """Lock the size of a part, so that nothing sizes it, or unlock it. Locks on parts that are gone
    go too.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who asks
    part : str
        Id of the part
    locked : bool
        Whether it is to be locked

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    held = SavedPlan.objects.select_for_update().get(pk=saved.pk)
    names = plan_of(saved.current).names
    kept = {id_ for id_ in held.locked if id_ in names and id_ != part}
    if locked and part in names:
        kept.add(part)
    # Not by ``save``, which would make it the plan that was changed last.
    SavedPlan.objects.filter(pk=saved.pk).update(locked=sorted(kept))
