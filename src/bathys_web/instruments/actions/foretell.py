"""Tell whoever looks after a plan of harm that comes if nothing is cleaned, before it comes."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from bathys_web.instruments.actions.taking import taken
from bathys_web.instruments.actions.tell import MESSENGERS, Message, is_quiet, public_link
from bathys_web.instruments.models import ForetoldHarm, WatchSettings
from bathys_web.plans.harm_ahead import Harm, harm_ahead
from bathys_web.plans.log_news import last_cleaned
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import assessment_of

__all__ = ["due_logs", "foretell"]

_EVERY = timedelta(hours=6)  # between two looks at a log
_FRESH = timedelta(days=30)  # a log that has been silent for longer tells nothing of days ahead
_AHEAD = timedelta(days=14)  # harm that comes later is not told of yet
_SOONER = timedelta(days=3)  # by so much it must have come nearer to be told of again


def due_logs(now: datetime) -> list[SavedPlan]:
    """Plans whose logs are to be gone through for what comes.

    Parameters
    ----------
    now : datetime
        The present moment

    Returns
    -------
    list of SavedPlan
        Those written in lately and not looked at for some hours, each taken by whoever asks first
    """
    rows = SavedPlan.objects.filter(log__at__gt=now - _FRESH, is_archived=False)
    return taken(rows, "looked_ahead", _EVERY, now)


def foretell(saved: SavedPlan, now: datetime) -> ForetoldHarm | None:
    """Tell of the first harm that comes, once.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    now : datetime
        The present moment

    Returns
    -------
    ForetoldHarm or None
        What was told; None where nothing comes within two weeks, where it was told since the last
        cleaning, or where nobody wants to know it now
    """
    watch, _ = WatchSettings.objects.get_or_create(plan=saved)
    ways = [(way, to) for way in MESSENGERS for to in way.reaches(watch, is_again=False)]
    if not ways or is_quiet(watch, now):
        return None
    found = assessment_of(saved.current).evaluation
    entries = list(LogEntry.objects.filter(plan=saved))
    harm = harm_ahead(saved, found, entries, now)
    if harm is None or harm.until > now + _AHEAD or _is_told(saved, harm, entries):
        return None
    message = _message(saved, found.plan.name, harm, now)
    sent = [way.send(to, message) for way, to in ways]
    if not any(sent):
        return None
    return ForetoldHarm.objects.create(
        plan=saved, until=harm.until, words=message.text[:500], told=now
    )


def _is_told(saved: SavedPlan, harm: Harm, entries: Sequence[LogEntry]) -> bool:
    """Whether it was told since anything was cleaned, and has hardly come nearer since."""
    last = ForetoldHarm.objects.filter(plan=saved).first()
    if last is None:
        return False
    cleaned = last_cleaned(entries)
    is_old = cleaned is not None and cleaned > last.told
    return not is_old and harm.until > last.until - _SOONER


def _message(saved: SavedPlan, name: str, harm: Harm, now: datetime) -> Message:
    days = max(round((harm.until - now).total_seconds() / 86400.0), 0)
    when = {0: "today", 1: "tomorrow"}.get(days, f"in {days} days")
    day = f"{harm.until:%-d %B}"
    first = (
        f"{harm.label} until about {day}, if nothing is cleaned." if harm.is_fitted else harm.label
    )
    text = f"{first}\n\nClean strainers and pipes by {day}, {when}, and enter it in the log."
    link = public_link("run", saved)
    return Message(f"{name}: clean by {day}", text, link, is_grave=False)
