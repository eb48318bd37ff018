"""Delete demo accounts that nobody kept."""

from django.db import transaction

from bathys_web.accounts.demo import lock_outlived
from bathys_web.computing.housekeeping import housekeeping
from bathys_web.plans.actions.delete_account import delete_account

__all__ = ["clear_demos"]

_AT_A_TIME = 5


@housekeeping
@transaction.atomic
def clear_demos() -> None:
    """Delete a few demo accounts older than a day, with their plans."""
    for user in lock_outlived(_AT_A_TIME):
        delete_account(user)
