"""Give a visitor a demo account of their own."""

from collections.abc import Callable
from functools import cache
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from bathys.plan import Plan, load_plan
from bathys_web.accounts.demo import make_demo_account
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.demo_season import write_season
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import assessment_of

__all__ = ["of_running_demo", "start_demo"]

_DEMO_PLANS = ("twelve-beds.json", "fish-and-leaves.json", "stacked-pair.json")
_RUNNING = 1
"""Which of them has run for a season."""

_ready = list[Callable[[SavedPlan], object]]()


def of_running_demo(do: Callable[[SavedPlan], object]) -> Callable[[SavedPlan], object]:
    """Register what else is done with the demo plan that has run for a season.

    Parameters
    ----------
    do : callable
        What is done with it

    Returns
    -------
    callable
        The same, registered
    """
    _ready.append(do)
    return do


@transaction.atomic
def start_demo() -> User:
    """Make a demo account with fresh copies of the demo plans.

    Returns
    -------
    user
        The account
    """
    user = make_demo_account()
    for number, plan in enumerate(_demo_plans()):
        saved = create_plan(user, plan, "copied for the demo")
        if number == _RUNNING:
            write_season(saved, assessment_of(saved.current).evaluation, timezone.now())
            for do in _ready:
                do(saved)
    return user


@cache
def _demo_plans() -> tuple[Plan, ...]:
    examples = Path(settings.PROJECT) / "examples"
    return tuple(load_plan((examples / name).read_bytes()) for name in _DEMO_PLANS)
