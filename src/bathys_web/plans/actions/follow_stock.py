"""Take the fish that a log tells of into its plan."""

from datetime import datetime
from uuid import uuid4

from django.contrib.auth.models import User
from django.db import transaction

from bathys.edits import EditRefused
from bathys.fieldlog import Stock, stock_edits, stock_of
from bathys_web.plans.actions.apply_change import apply_change
from bathys_web.plans.models import LogEntry, Revision, SavedPlan
from bathys_web.plans.storing import assessment_of

__all__ = ["follow_stock"]


@transaction.atomic
def follow_stock(saved: SavedPlan, user: User, base: int, now: datetime) -> Revision:
    """Make the plan's fish those that there are now, and note in the log that so many were counted:
    from then on they are counted from there.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    base : int
        Number of the revision they looked at
    now : datetime
        The present moment

    Returns
    -------
    Revision
        The revision that stands now

    Raises
    ------
    EditRefused
        If the plan has the same fish already, or does not bear it
    PermissionDenied, StaleEdit
        As :func:`apply_change`
    """
    entries = list(LogEntry.objects.filter(plan=saved))
    stock = stock_of([e.logged(now) for e in entries], assessment_of(saved.current).evaluation)
    edits = stock_edits(stock)
    if not edits:
        raise EditRefused("The plan has the fish that the log tells of already.")
    made = apply_change(saved, user, base, lambda _: (edits, "fish as the log tells"))
    for row in stock:
        if row.count != row.planned and row.count > 0:
            LogEntry.objects.create(
                plan=saved,
                key=uuid4(),
                kind="counted",
                part=row.cohort,
                values={"count": row.count},
                at=now,
                note=_note(row),
                author=user,
            )
    return made


def _note(row: Stock) -> str:
    return f"By the log, taken into the plan, which had {row.planned}."
