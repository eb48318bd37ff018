"""Delete an account with all that is its own."""

from django.contrib.auth.models import User
from django.db import transaction

from bathys_web.plans.actions.delete_plan import delete_plan
from bathys_web.plans.models import SavedPlan

__all__ = ["delete_account"]


@transaction.atomic
def delete_account(user: User) -> None:
    """Delete an account, its plans with all their revisions, and its pumps.

    Parameters
    ----------
    user : user
        Whose
    """
    for saved in SavedPlan.objects.filter(owner=user):
        delete_plan(saved, user)
    user.delete()
