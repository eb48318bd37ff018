"""Keep what was typed of a brief, and make plans of its answers."""

from collections.abc import Mapping, Sequence
from typing import Any

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys.plan import Plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import KeptBrief, SavedPlan

__all__ = ["keep_brief", "kept_brief_of", "plans_of_brief"]


def kept_brief_of(user: User) -> KeptBrief | None:
    """What a builder typed last.

    Parameters
    ----------
    user : User
        Whose

    Returns
    -------
    KeptBrief or None
        None if they typed none yet
    """
    return KeptBrief.objects.filter(owner=user).select_related("plan").first()


def keep_brief(user: User, typed: Mapping[str, str], plan: SavedPlan | None) -> None:
    """Keep what was typed, in the place of what was there.

    Parameters
    ----------
    user : User
        Who asks
    typed : mapping of str to str
        What was typed, by field
    plan : SavedPlan or None
        The plan that is planned again

    Raises
    ------
    PermissionDenied
        If that plan is not theirs
    """
    if plan is not None and plan.owner_id != user.pk:
        raise PermissionDenied
    values = {"typed": dict(typed), "plan": plan}
    KeptBrief.objects.update_or_create(owner=user, defaults=values)


@transaction.atomic
def plans_of_brief(
    user: User,
    plans: Sequence[tuple[Plan, Sequence[Mapping[str, Any]]]],
    typed: Mapping[str, str],
    origin: SavedPlan | None,
) -> list[SavedPlan]:
    """Save plans with the brief they are sized from.

    Parameters
    ----------
    user : User
        Whose
    plans : sequence of (Plan, sequence of mapping)
        The plans, each with why its sizes are so, as plain data
    typed : mapping of str to str
        What was typed of the brief
    origin : SavedPlan or None
        The plan that was planned again; these are variants of it

    Returns
    -------
    list of SavedPlan
        Their places
    """
    made = []
    for plan, reasons in plans:
        what = (
            "sized from a brief" if origin is None else f"planned again from the brief of {origin}"
        )
        saved = create_plan(user, plan, what[:300], origin.head if origin is not None else None)
        saved.brief = dict(typed)
        saved.reasons = [dict(reason) for reason in reasons]
        saved.save(update_fields=["brief", "reasons"])
        made.append(saved)
    return made
