"""Work the headlines of plans out again that another engine told."""

from django.db.models import Q

from bathys.engine import engine_name
from bathys_web.computing.housekeeping import housekeeping
from bathys_web.plans.headlines import headlines_of_plan
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["refresh_headlines"]

_AT_A_TIME = 5


@housekeeping
def refresh_headlines(most: int = _AT_A_TIME) -> int:
    """The newest revisions whose headlines this engine did not tell, a few at a time.

    Parameters
    ----------
    most : int
        How many at most

    Returns
    -------
    int
        How many were worked out
    """
    heads = SavedPlan.objects.filter(head__isnull=False).values("head")
    old = Revision.objects.filter(pk__in=heads).filter(
        ~Q(headlines__engine=engine_name()) | Q(headlines__engine__isnull=True)
    )
    done = 0
    for revision in old.order_by("-pk")[:most]:
        told = headlines_of_plan(plan_of(revision))
        Revision.objects.filter(pk=revision.pk).update(headlines=told)
        done += 1
    return done
