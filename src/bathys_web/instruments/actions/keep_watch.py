"""Keep how a plan is watched, and that somebody has seen what is wrong."""

from collections.abc import Collection
from datetime import datetime

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied, ValidationError
from django.core.validators import validate_email

from bathys_web.instruments.models import Incident, WatchSettings
from bathys_web.plans.models import SavedPlan

__all__ = ["BadWatch", "keep_watch", "see_incident"]


class BadWatch(ValueError):
    """Settings that cannot be; its message is a sentence."""


def keep_watch(
    saved: SavedPlan,
    user: User,
    ways: Collection[str],
    also_to: str,
    quiet: tuple[int, int],
    zone: str,
) -> None:
    """Keep how a plan is watched.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    ways : collection of str
        How alarms are told: ``mail``, ``push``
    also_to : str
        Address that is told too when nobody has seen it for half an hour; or empty
    quiet : (int, int)
        From and until when only grave things are told, [minutes after midnight]
    zone : str
        Time zone of these

    Raises
    ------
    BadWatch
        If the address is none
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    if also_to:
        try:
            validate_email(also_to)
        except ValidationError:
            raise BadWatch("This is no e-mail address.") from None
    WatchSettings.objects.update_or_create(
        plan=saved,
        defaults={
            "mails": "mail" in ways,
            "pushes": "push" in ways,
            "also_to": also_to,
            "quiet_from": quiet[0],
            "quiet_until": quiet[1],
            "zone": zone[:60],
        },
    )


def see_incident(saved: SavedPlan, user: User, now: datetime) -> None:
    """Note that somebody has seen what is wrong.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who has
    now : datetime
        When

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    Incident.objects.filter(plan=saved, ended=None, seen=None).update(seen=now)
