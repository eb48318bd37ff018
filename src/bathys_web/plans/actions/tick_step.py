"""Tick a step of the work, or take the tick off."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys_web.plans.models import BuildTicks, SavedPlan

__all__ = ["steps_done", "tick_step"]

_MOST = 400


def steps_done(saved: SavedPlan) -> list[str]:
    """Names of the steps that are done.

    Parameters
    ----------
    saved : SavedPlan
        The plan

    Returns
    -------
    list of str
        Their names
    """
    found = BuildTicks.objects.filter(plan=saved).first()
    return [] if found is None else list(found.done)


@transaction.atomic
def tick_step(saved: SavedPlan, user: User, step: str, is_done: bool) -> None:
    """Keep whether a step is done.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who asks
    step : str
        Name of the step
    is_done : bool
        Whether it is

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    BuildTicks.objects.get_or_create(plan=saved, defaults={"done": []})
    kept = BuildTicks.objects.select_for_update().get(plan=saved)
    steps = [s for s in kept.done if s != step]
    kept.done = [*steps, step][-_MOST:] if is_done else steps
    kept.save(update_fields=["done"])
