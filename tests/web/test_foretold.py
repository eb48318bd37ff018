"""Told ahead: harm that comes if nothing is cleaned, once, before it comes."""

from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.core import mail
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.plan import load_plan
from bathys_web.instruments.actions.foretell import due_logs, foretell
from bathys_web.instruments.models import WatchSettings
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.harm_ahead import harm_ahead
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.run_page import jobs_due
from bathys_web.plans.storing import assessment_of
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.django_db

SPLIT = load_plan((Path(EXAMPLE).parent / "split-flow.json").read_bytes())
NOON = timezone.now().replace(hour=12, minute=0, second=0, microsecond=0)


@pytest.fixture
def split(owner: Any) -> SavedPlan:
    """A plan whose beds are watered by a pump."""
    return create_plan(owner, SPLIT, "made for a test")


def _bucket(saved: SavedPlan, litres_an_hour: float, at: datetime) -> None:
    times = [0.01 / (litres_an_hour / 3.6e6)]
    values = {"volume": 0.01, "times": times}
    LogEntry.objects.create(plan=saved, key=uuid4(), kind="bucket", part="R5", at=at, values=values)


def _falls(saved: SavedPlan, until: datetime, a_day: float = 30.0) -> None:
    """Ten days of a flow that falls."""
    for day in range(10):
        _bucket(saved, 830.0 - a_day * day, until - timedelta(days=9 - day))


def test_harm_is_told_once_until_it_is_cleaned(split: SavedPlan) -> None:
    """By e-mail, with the day; again only after a cleaning, or where it came nearer by days."""
    _falls(split, NOON)
    told = foretell(split, NOON)
    assert told is not None
    (message,) = mail.outbox
    assert message.to == ["owner@bathys.example"]
    assert "no longer starts" in message.body
    assert f"{told.until:%-d %B}" in message.subject
    later = NOON + timedelta(days=1)
    _bucket(split, 530.0, later)
    assert foretell(split, later) is None
    cleaned = later + timedelta(hours=1)
    LogEntry.objects.create(
        plan=split, key=uuid4(), kind="job", part="", at=cleaned, values={"job": "strainer-P1"}
    )
    again = later + timedelta(days=12)
    assert foretell(split, again) is None
    _falls(split, again)
    assert foretell(split, again) is not None
    assert len(mail.outbox) == 2


def test_what_comes_much_nearer_is_told_again(split: SavedPlan) -> None:
    """A flow that falls ever faster."""
    _falls(split, NOON)
    first = foretell(split, NOON)
    soon = NOON + timedelta(days=2)
    for hours in range(1, 9):
        _bucket(split, 545.0 - 25.0 * hours, NOON + timedelta(hours=6 * hours))
    second = foretell(split, soon)
    assert first is not None
    assert second is not None
    assert second.until < first.until - timedelta(days=3)


def test_nobody_is_told_at_night_nor_who_does_not_want_it(split: SavedPlan) -> None:
    """It is told the next time it is looked at; without an address it is not worked out."""
    _falls(split, NOON)
    night = NOON.replace(hour=23)
    assert foretell(split, night) is None
    WatchSettings.objects.update(mails=False)
    assert foretell(split, NOON) is None
    assert not mail.outbox
    WatchSettings.objects.update(mails=True)
    assert foretell(split, NOON) is not None


def test_flow_that_holds_or_grows_tells_of_no_harm(split: SavedPlan) -> None:
    """Cleaning is no help against too much water, and brings no cleaning forward."""
    _falls(split, NOON, a_day=-80.0)
    assert foretell(split, NOON) is None
    found = assessment_of(split.current).evaluation
    entries = list(LogEntry.objects.filter(plan=split))
    assert harm_ahead(split, found, entries, NOON) is None


def test_cleaning_comes_due_before_the_harm_of_a_trend(split: SavedPlan) -> None:
    """The day before, wherever jobs are listed."""
    _falls(split, NOON, a_day=35.0)
    found = assessment_of(split.current).evaluation
    entries = list(LogEntry.objects.filter(plan=split))
    harm = harm_ahead(split, found, entries, NOON)
    assert harm is not None
    assert not harm.is_fitted
    left = {j.job.key: j.left for j in jobs_due(found, entries, NOON, harm.until)}
    days = (harm.until - NOON).total_seconds() / 86400.0
    assert left["strainer-P1"] == pytest.approx(min(days - 1.0, 5.0), abs=0.01)


def test_each_log_is_looked_at_by_one_watcher_and_not_again_for_hours(split: SavedPlan) -> None:
    """A log that has been silent for a month is left alone."""
    _falls(split, NOON)
    assert due_logs(NOON) == [split]
    assert due_logs(NOON + timedelta(hours=5)) == []
    assert due_logs(NOON + timedelta(hours=7)) == [split]
    assert due_logs(NOON + timedelta(days=40)) == []


def test_the_page_says_who_is_told_and_what_was(
    browser: Client, split: SavedPlan, owner: Any
) -> None:
    """Also for a plan without any board."""
    _falls(split, NOON)
    foretell(split, NOON)
    words = browser.get(reverse("instruments", args=[split.key])).content.decode()
    assert "Told ahead" in words
    assert "no longer starts" in words
    browser.post(
        reverse("keep_watch", args=[split.key]), {"quiet_from": "22:00", "quiet_until": "07:00"}
    )
    assert not WatchSettings.objects.get(plan=split).mails
