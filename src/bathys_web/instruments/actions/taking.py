"""Plans that a watcher takes, so that no other goes through them at the same time."""

from datetime import datetime, timedelta

from django.db.models import Q, QuerySet

from bathys_web.instruments.models import WatchSettings
from bathys_web.plans.models import SavedPlan

__all__ = ["taken"]


def taken(
    rows: QuerySet[SavedPlan], looked: str, every: timedelta, now: datetime
) -> list[SavedPlan]:
    """Those of some plans that are due, each taken by whoever asks first.

    Parameters
    ----------
    rows : queryset of SavedPlan
        Plans that may be due
    looked : str
        Field of the plan's watch that says when this was last done
    every : timedelta
        Between two times
    now : datetime
        The present moment

    Returns
    -------
    list of SavedPlan
        With their heads and owners; their watch says that it is done now
    """
    is_due = Q(**{looked: None}) | Q(**{f"{looked}__lte": now - every})
    rows = rows.exclude(**{f"watch__{looked}__gt": now - every})
    found = []
    for saved in rows.distinct().select_related("head", "owner"):
        WatchSettings.objects.get_or_create(plan=saved)
        if WatchSettings.objects.filter(is_due, plan=saved).update(**{looked: now}):
            found.append(saved)
    return found
