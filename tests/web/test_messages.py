"""Messages about what went wrong: by which way, to whom, when, and what becomes of them."""

import contextlib
import http.client
import json
import threading
from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.core import mail
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys_web.instruments.actions.keep_watch import see_incident
from bathys_web.instruments.actions.tell import tell
from bathys_web.instruments.management.commands.phone import phone_server
from bathys_web.instruments.models import Incident, RaisedAlarm, SentMessage, WatchSettings
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import assessment_of

pytestmark = pytest.mark.django_db

NOON = timezone.now().replace(hour=12, minute=0, second=0, microsecond=0)


@pytest.fixture
def phone(settings: Any) -> Iterator[list[tuple[str, str]]]:
    """The stand-in phone, and what it shows."""
    shown: list[tuple[str, str]] = []
    server = phone_server(0, lambda topic, title: shown.append((topic, title)))
    settings.PUSH_URL = f"http://127.0.0.1:{server.server_port}/"
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    yield shown
    server.shutdown()
    server.server_close()
    thread.join()


def _wrong(saved: SavedPlan, kind: str = "leak", *, is_grave: bool = True) -> Incident:
    began = NOON - timedelta(minutes=5)
    incident = Incident.objects.create(plan=saved, began=began, is_grave=is_grave)
    RaisedAlarm.objects.create(
        incident=incident, name=f"{kind}:", kind=kind, began=began, value=0.05, limit=0.002
    )
    return incident


def _tell(incident: Incident, at: datetime) -> None:
    tell(incident, assessment_of(incident.plan.current).evaluation, at)


def test_a_leak_is_mailed_and_pushed_once_and_again_to_a_second_person(
    saved: SavedPlan, phone: list[tuple[str, str]]
) -> None:
    watch = WatchSettings.objects.create(plan=saved, also_to="neighbour@bathys.example")
    incident = _wrong(saved)
    for minutes in (0, 1, 29):
        _tell(incident, NOON + timedelta(minutes=minutes))
    assert [m.to for m in mail.outbox] == [["owner@bathys.example"]]
    assert [topic for topic, _ in phone] == [str(watch.push_topic)]
    assert "Water is missing: 50" in phone[0][1]
    for minutes in (31, 90):
        _tell(incident, NOON + timedelta(minutes=minutes))
    assert [m.to[0].partition("@")[0] for m in mail.outbox] == ["owner", "owner", "neighbour"]
    assert len(phone) == 2
    assert SentMessage.objects.filter(is_sent=True).count() == 5


def test_what_somebody_has_seen_is_not_told_again(
    saved: SavedPlan, owner: Any, phone: list[tuple[str, str]]
) -> None:
    incident = _wrong(saved)
    _tell(incident, NOON)
    see_incident(saved, owner, NOON)
    incident.refresh_from_db()
    _tell(incident, NOON + timedelta(hours=1))
    assert len(phone) == len(mail.outbox) == 1


@pytest.mark.parametrize(("is_grave", "count"), [(True, 1), (False, 0)])
def test_at_night_only_what_is_grave_wakes_somebody(
    saved: SavedPlan, phone: list[tuple[str, str]], is_grave: bool, count: int
) -> None:
    WatchSettings.objects.create(plan=saved, quiet_from=11 * 60, quiet_until=13 * 60)
    incident = _wrong(saved, "leak" if is_grave else "gain", is_grave=is_grave)
    _tell(incident, NOON)
    assert len(phone) == count
    _tell(incident, NOON + timedelta(hours=2))
    assert len(phone) == 1 + count


def test_each_way_can_be_turned_off_and_the_second_person_is_told_all_the_same(
    saved: SavedPlan, browser: Client, phone: list[tuple[str, str]]
) -> None:
    right = {"quiet_from": "22:00", "quiet_until": "07:00", "also_to": "you@bathys.example"}
    assert browser.post(reverse("keep_watch", args=[saved.key]), right).status_code == 302
    incident = _wrong(saved)
    _tell(incident, NOON)
    assert not mail.outbox
    _tell(incident, NOON + timedelta(minutes=31))
    assert [m.to for m in mail.outbox] == [["you@bathys.example"]]
    assert not phone


def test_a_service_that_is_not_reached_holds_nothing_up_and_the_page_says_so(
    saved: SavedPlan, browser: Client, settings: Any
) -> None:
    settings.PUSH_URL = "http://127.0.0.1:9"  # where nothing listens
    saved.boards.create(name="Mine")
    _tell(_wrong(saved), NOON)
    assert len(mail.outbox) == 1
    assert list(SentMessage.objects.order_by("way").values_list("way", "is_sent")) == [
        ("mail", True),
        ("push", False),
    ]
    page = browser.get(reverse("instruments", args=[saved.key])).content.decode()
    assert page.count("not delivered") == 1
    assert str(WatchSettings.objects.get().push_topic) in page


def test_no_topic_is_told_where_there_is_no_push_service(saved: SavedPlan, browser: Client) -> None:
    watch = WatchSettings.objects.create(plan=saved)
    saved.boards.create(name="Mine")
    page = reverse("instruments", args=[saved.key])
    assert str(watch.push_topic) not in browser.get(page).content.decode()
    kept = {"quiet_from": "22:00", "quiet_until": "07:00", "also_to": "", "ways": ["mail", "push"]}
    browser.post(reverse("keep_watch", args=[saved.key]), kept)
    watch.refresh_from_db()
    assert watch.pushes  # as it was, for the day there is one


def test_the_stand_in_takes_no_message_that_is_none(
    phone: list[tuple[str, str]], settings: Any
) -> None:
    to = http.client.HTTPConnection(settings.PUSH_URL.split("/")[2])
    for body in ("", "{}", "[]", "{", '{"titel": "misspelt"}'):
        to.request("POST", "/topic", body)
        answer = to.getresponse()
        answer.read()
        assert answer.status == 400
    assert not phone


def test_what_is_pushed_says_where_to_look_and_whether_it_is_grave(
    saved: SavedPlan, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """As JSON of four fields; the link is there where the application knows its own address."""
    sent: list[dict[str, Any]] = []

    def opened(request: Any, timeout: float) -> Any:
        sent.append(json.loads(request.data) | {"to": request.full_url})
        return contextlib.nullcontext()

    monkeypatch.setattr("urllib.request.urlopen", opened)
    settings.PUSH_URL = "https://push.bathys.example"
    _tell(_wrong(saved), NOON)
    Incident.objects.all().delete()
    settings.PUBLIC_URL = "https://plans.bathys.example/"
    _tell(_wrong(saved, "gain", is_grave=False), NOON)
    topic = WatchSettings.objects.get().push_topic
    assert [row.pop("to") for row in sent] == [f"https://push.bathys.example/{topic}"] * 2
    assert all(set(row) == {"title", "text", "link", "is_grave"} for row in sent)
    assert [row["is_grave"] for row in sent] == [True, False]
    page = reverse("instruments", args=[saved.key])
    assert [row["link"] for row in sent] == ["", f"https://plans.bathys.example{page}"]
    assert page in mail.outbox[1].body
    assert "Look along the pipes" in sent[0]["text"]


def test_each_plan_has_a_topic_of_its_own(saved: SavedPlan, owner: Any) -> None:
    other = SavedPlan.objects.create(owner=owner)
    topics = {WatchSettings.objects.create(plan=plan).push_topic for plan in (saved, other)}
    assert len(topics) == 2
