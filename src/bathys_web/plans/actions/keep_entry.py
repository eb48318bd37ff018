"""Keep what was measured or done, and drop what was a mistake."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID, uuid5

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.utils import timezone

from bathys_web.plans.destinations import destinations
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["BadMoment", "drop_entry", "keep_entry", "spoon_of"]

_MOST = 20_000  # entries of a plan
_AHEAD = timedelta(minutes=10)  # a clock may be so fast


class BadMoment(ValueError):
    """An entry of the future, or one too many; its message is a sentence."""


@transaction.atomic
def keep_entry(
    saved: SavedPlan,
    user: User,
    key: UUID,
    what: tuple[str, str, Mapping[str, Any]],
    at: datetime,
    note: str = "",
) -> LogEntry:
    """Keep an entry; sent again it is the same one. Fish moved to others of one's own come there.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who asks
    key : UUID
        Name of the entry, from whoever sends it
    what : (str, str, mapping)
        Its kind, its part, and what it says by field, in SI
    at : datetime
        When it was
    note : str
        Words to it

    Returns
    -------
    LogEntry
        The entry

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    BadMoment
        If it lies in the future, or the log is full
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    if at > timezone.now() + _AHEAD:
        raise BadMoment("That is still to come: check date and time.")
    if LogEntry.objects.filter(plan=saved).count() >= _MOST:
        raise BadMoment("The log of this plan is full. Save it as a file and delete old entries.")
    kind, part, values = what
    entry, is_new = LogEntry.objects.get_or_create(
        plan=saved,
        key=key,
        defaults={
            "kind": kind,
            "part": part,
            "values": dict(values),
            "at": at,
            "note": note[:300],
            "author": user,
        },
    )
    if is_new and kind == "moved":
        _let_come(entry)
    return entry


def _let_come(moved: LogEntry) -> None:
    """Enter fish that were moved where they came to, if that is kept here too."""
    told = destinations(moved.plan)
    there = told.get(str(moved.values.get("to", "")).strip())
    if there is None or there == (moved.plan, moved.part):
        return
    plan, cohort = there
    whence = next((words for words, at in told.items() if at == (moved.plan, moved.part)), "")
    if plan != moved.plan:
        whence = f"{whence}, {plan_of(moved.plan.current).name}"
    counted = {name: moved.values[name] for name in ("count", "mass") if name in moved.values}
    LogEntry.objects.get_or_create(
        plan=plan,
        key=_key_there(moved),
        defaults={
            "kind": "came",
            "part": cohort,
            "values": counted | {"of": whence},
            "at": moved.at,
            "author": moved.author,
        },
    )


def _key_there(moved: LogEntry) -> UUID:
    """Key of the entry where fish came to."""
    return uuid5(moved.key, "came")


def spoon_of(saved: SavedPlan, part: str) -> float | None:
    """What a spoon of feed weighs, by the last time one was weighed.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    part : str
        Id of the fish that it feeds

    Returns
    -------
    float or None
        One spoon, [kg]; none where none was weighed
    """
    last = LogEntry.objects.filter(plan=saved, kind="spoon", part=part).first()
    return float(last.values["mass"]) / float(last.values["count"]) if last is not None else None


def drop_entry(entry: LogEntry, user: User) -> None:
    """Drop an entry that was a mistake; of fish moved, also where they came to.

    Parameters
    ----------
    entry : LogEntry
        The entry
    user : User
        Who asks

    Raises
    ------
    PermissionDenied
        If its plan is not theirs
    """
    if entry.plan.owner_id != user.pk:
        raise PermissionDenied
    if entry.kind == "moved":
        LogEntry.objects.filter(plan__owner=user, key=_key_there(entry)).delete()
    entry.delete()
