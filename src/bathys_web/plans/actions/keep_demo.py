"""Keep what was planned in a demo account."""

from django.contrib.auth.models import User
from django.db import transaction

from bathys.shelf import OWN_PART_KINDS
from bathys_web.accounts.models import DemoAccount
from bathys_web.plans.models import OwnContainer, OwnPart, OwnPrices, OwnPump, Revision, SavedPlan

__all__ = ["move_demo"]


@transaction.atomic
def move_demo(demo_pk: int, user: User) -> int:
    """Move the plans and pumps of a demo account into another account, and delete the demo
    account. Pumps and containers of a name that the account has already stay as the account has
    them, and so do its prices.

    Parameters
    ----------
    demo_pk : int
        Key of the demo account's user
    user : user
        Who gets the plans

    Returns
    -------
    int
        How many plans were moved; 0 if there is no such demo account any more
    """
    demo = DemoAccount.objects.select_for_update().filter(user_id=demo_pk).first()
    if demo is None or demo_pk == user.pk:
        return 0
    Revision.objects.filter(plan__owner_id=demo_pk).update(author=user)
    moved = SavedPlan.objects.filter(owner_id=demo_pk).update(owner=user)
    names = OwnPump.objects.filter(owner=user).values("name")
    OwnPump.objects.filter(owner_id=demo_pk).exclude(name__in=names).update(owner=user)
    kept = OwnContainer.objects.filter(owner=user).values("name")
    OwnContainer.objects.filter(owner_id=demo_pk).exclude(name__in=kept).update(owner=user)
    for kind in OWN_PART_KINDS:
        taken = OwnPart.objects.filter(owner=user, kind=kind).values("name")
        mine = OwnPart.objects.filter(owner_id=demo_pk, kind=kind)
        mine.exclude(name__in=taken).update(owner=user)
    if not OwnPrices.objects.filter(owner=user).exists():
        OwnPrices.objects.filter(owner_id=demo_pk).update(owner=user)
    demo.user.delete()
    return moved
