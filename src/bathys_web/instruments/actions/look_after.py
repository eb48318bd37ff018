"""Go through the readings of a plan: raise alarms, end them, find what failed, have it told."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from typing import Any

from django.db import transaction

from bathys.instruments import ALARMS, Alarm, alarms_of, causes_of, drying_of
from bathys.network import NotSolved
from bathys.simulation import NotSimulated
from bathys_web.instruments.actions.taking import taken
from bathys_web.instruments.actions.tell import tell
from bathys_web.instruments.expecting import Expected, expected_answer, look_of_failures
from bathys_web.instruments.models import BoardChannel, Incident, RaisedAlarm
from bathys_web.instruments.storage import series_of
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import assessment_of

__all__ = ["EVERY", "due_plans", "look_after"]

EVERY = timedelta(seconds=60)
"""Between two looks at a plan."""

_BACK = timedelta(hours=27)
_FORGOTTEN = timedelta(days=3)  # a plan whose boards have been silent for so long is left alone
_UNSURE = timedelta(hours=3)  # for so long what failed is looked for


def due_plans(now: datetime) -> list[SavedPlan]:
    """Plans whose readings are to be gone through.

    Parameters
    ----------
    now : datetime
        The present moment

    Returns
    -------
    list of SavedPlan
        Those heard of lately and not looked at for a minute, each taken by whoever asks first
    """
    rows = SavedPlan.objects.filter(boards__heard__gt=now - _FORGOTTEN)
    return taken(rows, "looked", EVERY, now)


def look_after(saved: SavedPlan, now: datetime) -> Incident | None:
    """Go through the readings of a plan.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    now : datetime
        The present moment

    Returns
    -------
    Incident or None
        What is wrong; None where nothing is, or where it is not known yet what is expected
    """
    rows = list(BoardChannel.objects.filter(board__plan=saved).exclude(board__token_hash=None))
    if not rows:
        return None
    answer = expected_answer(saved, rows, saved.owner)
    if not answer.is_done or not isinstance(answer.result, Expected):
        return None
    found = assessment_of(saved.current).evaluation
    open_now = Incident.objects.filter(plan=saved, ended=None).first()
    is_open = (
        set(open_now.alarms.filter(ended=None).values_list("name", flat=True))
        if open_now
        else set()
    )
    channels = tuple(row.as_channel() for row in rows)
    series = series_of([row.pk for row in rows], now - _BACK, now)
    alarms = alarms_of(
        channels,
        answer.result.bands,
        series,
        now.timestamp(),
        is_open=is_open,
        dries=drying_of(found.plan),
        added=_added(saved, now),
    )
    incident = _noted(saved, open_now, alarms, {str(r.pk): r.kind for r in rows}, now)
    if incident is None:
        return None
    if incident.ended is None and now - incident.began < _UNSURE:
        try:
            look = look_of_failures(saved.current.physics_hash, found, channels)
        except (NotSimulated, NotSolved):
            look = None
        if look is not None:
            since = incident.began.timestamp()
            causes = causes_of(
                look.signatures,
                channels,
                answer.result.bands,
                look.usual,
                series,
                since,
                now.timestamp(),
            )
            # What was told apart once stays, though later readings fit more of them.
            if causes:
                incident.causes = [[c.failure.kind, c.failure.place] for c in causes]
                incident.save(update_fields=("causes",))
    tell(incident, found, now)
    return incident


def _added(saved: SavedPlan, now: datetime) -> list[tuple[float, float]]:
    """Water that was put in and let out by hand, by the log."""
    rows = LogEntry.objects.filter(plan=saved, kind__in=("top_up", "purge"), at__gt=now - _BACK)
    signs = {"top_up": 1.0, "purge": -1.0}
    return [
        (row.at.timestamp(), signs[row.kind] * float(row.values.get("volume", 0.0))) for row in rows
    ]


@transaction.atomic
def _noted(
    saved: SavedPlan,
    open_now: Incident | None,
    alarms: Sequence[Alarm],
    kinds: dict[str, str],
    now: datetime,
) -> Incident | None:
    """What is wrong, written down."""
    incident = open_now
    if incident is None:
        if not alarms:
            return None
        began = datetime.fromtimestamp(min(a.since for a in alarms), UTC)
        incident = Incident.objects.create(plan=saved, began=began, noticed=now)
    was_open = set(incident.alarms.filter(ended=None).values_list("name", flat=True))
    for alarm in alarms:
        told: dict[str, Any] = {
            "kind": alarm.kind,
            "part": alarm.part,
            "measured": kinds.get(alarm.channel, ""),
            "value": alarm.value,
            "limit": alarm.limit,
            "ended": None,
        }
        first = {**told, "began": datetime.fromtimestamp(alarm.since, UTC)}
        RaisedAlarm.objects.update_or_create(
            incident=incident, name=alarm.name, defaults=told, create_defaults=first
        )
    lasting = incident.alarms.filter(ended=None)
    lasting.exclude(name__in=[a.name for a in alarms]).update(ended=now)
    joined = any(ALARMS[a.kind].is_grave and a.name not in was_open for a in alarms)
    if joined and (not incident.is_grave or incident.seen is not None):
        # Somebody has seen something else: this is told as if it were the first.
        incident.seen = incident.told = incident.told_again = None
    incident.is_grave = incident.is_grave or joined
    if not alarms:
        incident.ended = now
    incident.save()
    return incident
