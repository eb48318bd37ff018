"""Commands beside the web server: the simulated board that sends, the watch, the listener."""

import os
from datetime import timedelta
from typing import Any

import pytest
from django.core.management import CommandError, call_command
from django.db import OperationalError
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys_web.instruments.management.commands import watch
from bathys_web.instruments.models import Board, Incident, Reading, RigFault, SentMessage
from bathys_web.plans.models import SavedPlan

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def no_nicer(monkeypatch: pytest.MonkeyPatch) -> None:
    """What comes after is to run as fast."""
    monkeypatch.setattr(os, "nice", lambda _: 0)


@pytest.fixture
def simulated(browser: Client, saved: SavedPlan) -> Board:
    """A simulated board that was heard half a day ago."""
    browser.post(reverse("new_board", args=[saved.key]), {"simulated": "1"})
    Board.objects.update(heard=timezone.now() - timedelta(hours=13))
    return Board.objects.get()


def test_a_simulated_board_sends_as_a_real_one_and_what_fails_is_told(
    simulated: Board, live_server: Any
) -> None:
    """Half a day by the minute over real HTTP; a drain that was blocked is found by the watch."""
    since = timezone.now() - timedelta(minutes=40)
    RigFault.objects.create(
        board=simulated, kind="blocked", place="R2", begins=since, ends=since + timedelta(hours=2)
    )
    call_command("rig", to=live_server.url, once=True)
    count = simulated.channels.count()
    assert count * 700 <= Reading.objects.count() <= count * 800
    simulated.refresh_from_db()
    assert simulated.heard is not None
    assert timezone.now() - simulated.heard < timedelta(minutes=2)
    call_command("watch", once=True)
    call_command("watch", once=True)  # within its minute it is left alone
    incident = Incident.objects.get()
    assert incident.is_grave
    assert ["blocked", "R2"] in incident.causes
    assert SentMessage.objects.filter(incident=incident, way="mail", is_sent=True).count() == 1


def test_a_board_whose_token_was_taken_back_or_that_is_not_reached_sends_nothing(
    simulated: Board, live_server: Any
) -> None:
    call_command("rig", to="http://127.0.0.1:9", once=True)
    assert not Reading.objects.exists()
    Board.objects.update(token_hash="of another token")
    call_command("rig", to=live_server.url, once=True)
    assert not Reading.objects.exists()


def test_a_plan_that_cannot_be_watched_leaves_the_others_watched(
    simulated: Board, monkeypatch: pytest.MonkeyPatch
) -> None:
    """So does a database that is away for a moment."""
    asked = []

    def breaks(now: Any) -> list[SavedPlan]:
        asked.append(now)
        if len(asked) == 1:
            raise OperationalError("away")
        return [simulated.plan, simulated.plan]

    looked: list[int] = []

    def stumbles(saved: SavedPlan, now: Any) -> None:
        looked.append(saved.pk)
        raise ValueError("a plan of its own kind")

    monkeypatch.setattr(watch, "due_plans", breaks)
    monkeypatch.setattr(watch, "look_after", stumbles)
    call_command("watch", once=True)
    assert not looked
    call_command("watch", once=True)
    assert looked == [simulated.plan.pk] * 2


def test_a_listener_without_a_broker_says_what_is_missing() -> None:
    with pytest.raises(CommandError, match="BATHYS_MQTT_HOST names no broker"):
        call_command("listen")


def test_to_prepare_twice_does_nothing_twice(
    owner: Any, monkeypatch: pytest.MonkeyPatch, settings: Any, tmp_path: Any
) -> None:
    warmed: list[int] = []
    settings.STATIC_ROOT = tmp_path
    monkeypatch.setattr(
        "bathys_web.plans.management.commands.prepare.warm_engine", lambda: warmed.append(1)
    )
    for _ in range(2):
        call_command("prepare")
    assert warmed == [1, 1]
    assert (tmp_path / "staticfiles.json").exists()
    owner.refresh_from_db()  # is still there
