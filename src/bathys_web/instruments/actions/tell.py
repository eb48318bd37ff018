"""Tell whoever looks after a plan what is wrong: one message for one thing, and another where
nobody has seen the first."""

import json
import logging
import urllib.error
import urllib.request
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
from typing import Protocol
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.conf import settings
from django.core.mail import EmailMessage
from django.urls import reverse

from bathys.evaluation import Evaluation
from bathys_web.instruments.models import Incident, SentMessage, WatchSettings
from bathys_web.instruments.words import incident_words
from bathys_web.plans.models import SavedPlan

__all__ = ["MESSENGERS", "Mail", "Message", "Messenger", "Push", "is_quiet", "public_link", "tell"]

_TOGETHER = timedelta(seconds=60)  # alarms of one thing are waited for
_CLEARER = timedelta(minutes=3)  # until readings tell what failed, no longer is waited
_UNSEEN = timedelta(minutes=30)  # until it is told again
_PATIENCE = 10.0  # with a push service [s]
log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Message:
    """What somebody is told.

    Attributes
    ----------
    title, text : str
        Its heading, and all of it
    link : str
        Where to look at it; empty where the application does not know its own address
    is_grave : bool
        Whether it may wake somebody
    """

    title: str
    text: str
    link: str
    is_grave: bool


class Messenger(Protocol):
    """A way to reach somebody.

    Attributes
    ----------
    way : str
        Its name in the data
    """

    way: str

    def reaches(self, watch: WatchSettings, is_again: bool) -> Sequence[str]:
        """Whom it reaches: the owner, and again whoever else is named."""
        ...

    def send(self, to: str, message: Message) -> bool:
        """Send a message; False if it could not be sent."""
        ...


class Mail:
    """By e-mail."""

    way = "mail"

    def reaches(self, watch: WatchSettings, is_again: bool) -> Sequence[str]:
        """The owner, if they want it; when told again, also the second address."""
        own = [watch.plan.owner.email] if watch.mails else []
        return [to for to in (*own, watch.also_to if is_again else "") if to]

    def send(self, to: str, message: Message) -> bool:
        """Send it; a mail server that is not reached holds nothing up."""
        more = f"\nLook at it: {message.link}" if message.link else ""
        mail = EmailMessage(message.title, message.text + more, settings.DEFAULT_FROM_EMAIL, [to])
        try:
            mail.send()
        except OSError:
            log.warning("a message about an alarm could not be sent")
            return False
        return True


class Push:
    """To a phone, by a push service: one POST of JSON to its address and the plan's topic."""

    way = "push"

    def reaches(self, watch: WatchSettings, is_again: bool) -> Sequence[str]:
        """Whoever listens under the plan's topic."""
        return [str(watch.push_topic)] if settings.PUSH_URL and watch.pushes else []

    def send(self, to: str, message: Message) -> bool:
        """Send it; a service that is not reached holds nothing up."""
        request = urllib.request.Request(  # noqa: S310 - the address is the operator's own
            f"{settings.PUSH_URL.rstrip('/')}/{to}",
            json.dumps(asdict(message)).encode(),
            {"Content-Type": "application/json"},
        )
        try:
            with urllib.request.urlopen(request, timeout=_PATIENCE):  # noqa: S310
                return True
        except (urllib.error.URLError, TimeoutError, ConnectionError):
            log.warning("a message about an alarm did not reach the push service")
            return False


MESSENGERS: tuple[Messenger, ...] = (Mail(), Push())
"""Every way that is used."""


def public_link(page: str, saved: SavedPlan) -> str:
    """Where somebody looks at a page of a plan from elsewhere.

    Parameters
    ----------
    page : str
        Name of its address
    saved : SavedPlan
        The plan

    Returns
    -------
    str
        The address; empty where the application does not know its own
    """
    public = settings.PUBLIC_URL.rstrip("/")
    return f"{public}{reverse(page, args=[saved.key])}" if public else ""


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
    if incident.ended is not None or incident.seen is not None:
        return
    if not any(messenger.reaches(watch, True) for messenger in MESSENGERS):
        return
    if not incident.is_grave and is_quiet(watch, now):
        return
    if incident.told is None:
        # Found late, such as after days without a watch, it is told as soon.
        is_clear = bool(incident.causes) or now - incident.noticed >= _CLEARER
        if now - incident.began >= _TOGETHER and is_clear:
            incident.told = now
            _send(incident, watch, found, now, is_again=False)
    elif incident.told_again is None and incident.is_grave and now - incident.told >= _UNSEEN:
        incident.told_again = now
        _send(incident, watch, found, now, is_again=True)
    incident.save(update_fields=("told", "told_again"))


def _send(
    incident: Incident, watch: WatchSettings, found: Evaluation, now: datetime, *, is_again: bool
) -> None:
    message = _message(incident, found)
    for messenger in MESSENGERS:
        for to in messenger.reaches(watch, is_again):
            SentMessage.objects.create(
                incident=incident,
                way=messenger.way,
                to=to,
                title=message.title[:300],
                at=now,
                is_sent=messenger.send(to, message),
            )


def _message(incident: Incident, found: Evaluation) -> Message:
    words = incident_words(incident, found, "metric")
    lines = [words.title, *words.alarms[1:], ""]
    if words.causes:
        lines += ["This fits best:", *words.causes, ""]
    else:
        lines += ["Readings do not tell yet what failed.", ""]
    lines += words.acts
    link = public_link("instruments", incident.plan)
    return Message(f"{found.plan.name}: {words.title}", "\n".join(lines), link, incident.is_grave)
