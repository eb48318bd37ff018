"""Demo accounts: one for each visitor, deleted after a day unless kept."""

from datetime import datetime, timedelta
from uuid import uuid4

from django.contrib.auth import get_user_model
from django.contrib.auth.models import AnonymousUser, User
from django.utils import timezone

from bathys_web.accounts.models import DemoAccount

__all__ = ["DEMO_LASTS", "deleted_after", "is_demo", "lock_outlived", "make_demo_account"]

DEMO_LASTS = timedelta(days=1)
_DOMAIN = "demo.bathys.example"


def make_demo_account() -> User:
    """Make a demo account with no password.

    Returns
    -------
    user
        The account; its address is invented
    """
    name = f"demo-{uuid4().hex[:12]}"
    user: User = get_user_model().objects.create_user(name, f"{name}@{_DOMAIN}")
    DemoAccount.objects.create(user=user)
    return user


def is_demo(user: User | AnonymousUser) -> bool:
    """Whether this is a demo account.

    Parameters
    ----------
    user : user
        Who asks

    Returns
    -------
    bool
        True until it is kept
    """
    return deleted_after(user) is not None


def deleted_after(user: User | AnonymousUser) -> datetime | None:
    """When this demo account is deleted.

    Parameters
    ----------
    user : user
        Who asks

    Returns
    -------
    datetime, optional
        The moment; None if it is no demo account
    """
    # An account with a password is no demo account: that needs no look at the database.
    if not user.is_authenticated or user.has_usable_password():
        return None
    demo = DemoAccount.objects.filter(user_id=user.pk).first()
    return demo.created + DEMO_LASTS if demo else None


def lock_outlived(most: int) -> list[User]:
    """Demo accounts older than a day, locked until the transaction ends; those that another worker
    has locked are left to it.

    Parameters
    ----------
    most : int
        How many at most

    Returns
    -------
    list of user
        The oldest first
    """
    old = DemoAccount.objects.filter(created__lt=timezone.now() - DEMO_LASTS).order_by("created")
    locked = old.select_for_update(skip_locked=True)[:most]
    return list(get_user_model().objects.filter(pk__in=[demo.user_id for demo in locked]))
