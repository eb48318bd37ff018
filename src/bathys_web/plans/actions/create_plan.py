"""Store a new plan."""

from django.contrib.auth.models import User
from django.db import transaction

from bathys.plan import Plan, document_hash, physics_hash
from bathys_web.plans.headlines import headlines_of_plan
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.storing import document_of

__all__ = ["create_plan"]


@transaction.atomic
def create_plan(owner: User, plan: Plan, what: str, origin: Revision | None = None) -> SavedPlan:
    """Save a plan as the first revision of a new place of its owner.

    Parameters
    ----------
    owner : user
        Whose
    plan : Plan
        The plan
    what : str
        How it came about, in words
    origin : Revision, optional
        What it was copied from

    Returns
    -------
    SavedPlan
        Its place
    """
    saved = SavedPlan.objects.create(owner=owner, origin=origin)
    saved.head = Revision.objects.create(
        plan=saved,
        number=1,
        document=document_of(plan),
        what_changed=what,
        author=owner,
        content_hash=document_hash(plan),
        physics_hash=physics_hash(plan),
        headlines=headlines_of_plan(plan),
    )
    saved.save()
    return saved
