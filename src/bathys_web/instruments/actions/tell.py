"""Tell whoever looks after a plan what is wrong: one message for one thing, and another where
nobody has seen the first."""

import logging
from datetime import datetime, timedelta
from typing import Protocol
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.conf import settings
from django.core.mail import EmailMessage
from django.urls import reverse

from bathys.evaluation import Evaluation
from bathys_web.instruments.models import Incident, WatchSettings
from bathys_web.instruments.words import incident_words

__all__ = ["Messenger", "is_quiet", "tell"]

_TOGETHER = timedelta(seconds=60)  # alarms of one thing are waited for
_UNSEEN = timedelta(minutes=30)  # until it is told again
log = logging.getLogger(__name__)


class Messenger(Protocol):
    """A way to reach somebody."""

    def send(self, to: str, subject: str, text: str) -> None:
        """Send a message."""
        ...


class Mail:
    """By e-mail."""

    def send(self, to: str, subject: str, text: str) -> None:
        """Send it; a mail server that is not reached holds nothing up."""
        try:
            EmailMessage(subject, text, settings.DEFAULT_FROM_EMAIL, [to]).send()
        except OSError:
            log.warning("a message about an alarm could not be sent")


MESSENGERS: tuple[Messenger, ...] = (Mail(),)
"""Every way that is used."""


def is_quiet(watch: WatchSettings, now: datetime) -> bool:
    """Whether it is a time at which only grave things are told.

    Parameters
    ----------
    watch : WatchSettings
        How the plan is watched
    now : datetime
        The present moment

    Returns
    -------
    bool
        By the plan's own clock
    """
    try:
        local = now.astimezone(ZoneInfo(watch.zone))
    except (ZoneInfoNotFoundError, ValueError, OSError):
        local = now
    minute = 60 * local.hour + local.minute
    if watch.quiet_from <= watch.quiet_until:
        return watch.quiet_from <= minute < watch.quiet_until
    return minute >= watch.quiet_from or minute < watch.quiet_until


def tell(incident: Incident, found: Evaluation, now: datetime) -> None:
    """Tell it, if it is time to.

    Parameters
    ----------
    incident : Incident
        What is wrong
    found : Evaluation
        The numbers of the plan
    now : datetime
        The present moment
    """
    watch, _ = WatchSettings.objects.get_or_create(plan=incident.plan)
    if incident.ended is not None or incident.seen is not None or not watch.mails:
        return
    if not incident.is_grave and is_quiet(watch, now):
        return
    if incident.told is None:
        # Found late, such as after days without a watch, it is told at once.
        if now - incident.began >= _TOGETHER:
            incident.told = now
            _send(incident, found, [incident.plan.owner.email])
    elif incident.told_again is None and incident.is_grave and now - incident.told >= _UNSEEN:
        incident.told_again = now
        _send(incident, found, [incident.plan.owner.email, watch.also_to])
    incident.save(update_fields=("told", "told_again"))


def _send(incident: Incident, found: Evaluation, to: list[str]) -> None:
    words = incident_words(incident, found, "metric")
    page = reverse("instruments", args=[incident.plan.key])
    lines = [words.title, *words.alarms[1:], ""]
    if words.causes:
        lines += ["This fits best:", *words.causes, ""]
    lines += [*words.acts, ""]
    if settings.PUBLIC_URL:
        lines.append(f"Look at it: {settings.PUBLIC_URL.rstrip('/')}{page}")
    for address in filter(None, to):
        for messenger in MESSENGERS:
            messenger.send(address, f"{found.plan.name}: {words.title}", "\n".join(lines))
