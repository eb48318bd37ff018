"""Make the practice plan of the tour."""

from django.contrib.auth.models import User
from django.db import transaction

from bathys.edits import Edit, apply_edits
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.delete_plan import delete_plan
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.starters import starter

__all__ = ["start_tour"]

_NAME, _WHAT = "Practice plan", "started for the tour"


@transaction.atomic
def start_tour(user: User) -> SavedPlan:
    """Make a practice plan. One that an earlier tour made and nobody changed is deleted.

    Parameters
    ----------
    user : user
        Whose

    Returns
    -------
    SavedPlan
        The plan
    """
    untouched = SavedPlan.objects.filter(
        owner=user, last_number=1, revisions__number=1, revisions__what_changed=_WHAT
    )
    for old in untouched:
        delete_plan(old, user)
    purpose = "Made for the tour: change it as you like, and delete it when you are done."
    edits = [Edit("name", _NAME), Edit("brief.purpose", purpose)]
    return create_plan(user, apply_edits(starter("stacked-pair"), edits), _WHAT)
