"""Give a visitor a demo account of their own."""

from functools import cache
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from bathys.plan import Plan, load_plan
from bathys_web.accounts.demo import make_demo_account
from bathys_web.plans.actions.create_plan import create_plan

__all__ = ["start_demo"]

_DEMO_PLANS = ("twelve-beds.json", "stacked-pair.json")


@transaction.atomic
def start_demo() -> User:
    """Make a demo account with fresh copies of the demo plans.

    Returns
    -------
    user
        The account
    """
    user = make_demo_account()
    for plan in _demo_plans():
        create_plan(user, plan, "copied for the demo")
    return user


@cache
def _demo_plans() -> tuple[Plan, ...]:
    examples = Path(settings.PROJECT) / "examples"
    return tuple(load_plan((examples / name).read_bytes()) for name in _DEMO_PLANS)
