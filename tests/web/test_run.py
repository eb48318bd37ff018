"""The log through its pages."""

import html
import re
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import LogEntry, SavedPlan
from tests.conftest import EXAMPLE


@pytest.fixture
def split(owner: Any) -> SavedPlan:
    """A plan with a pump, beds and a fish tank."""
    path = Path(EXAMPLE).parent / "split-flow.json"
    return create_plan(owner, load_plan(path.read_bytes()), "made for a test")


def _page(browser: Client, saved: SavedPlan) -> str:
    return html.unescape(browser.get(reverse("run", args=[saved.key])).content.decode())


def test_a_bucket_is_two_taps_and_stands_beside_what_is_expected(
    browser: Client, split: SavedPlan
) -> None:
    """What is wrong is told with all kept; sent twice it is there once; deleted it is gone."""
    address = reverse("enter", args=[split.key, "bucket"])
    form = browser.get(address).content.decode()
    part = re.findall(r'name="part" value="(\w+)"', form)[1]
    told = {"part": part, "volume": "10 L", "times": "very <b>long</b>", "entry": str(uuid4())}
    wrong = browser.post(address, told)
    assert wrong.status_code == 422
    assert "&lt;b&gt;long" in wrong.content.decode()
    assert "cannot be read" in wrong.content.decode()
    for _ in range(2):
        sent = browser.post(address, told | {"times": "52.4 53.1 51.9"})
        assert sent.url == reverse("run", args=[split.key])
    entry = LogEntry.objects.get(plan=split)
    assert entry.values["times"] == [52.4, 53.1, 51.9]
    page = _page(browser, split)
    assert "less than planned" in page
    assert "52.4 s, 53.1 s, 51.9 s" in page
    file = browser.get(reverse("log_csv", args=[split.key])).content.decode()
    assert f"bucket,{part},volume,10,L" in file
    browser.post(reverse("delete_entry", args=[split.key, entry.pk]))
    assert not LogEntry.objects.exists()


def test_a_flow_that_falls_tells_when_the_siphon_no_longer_starts(
    browser: Client, split: SavedPlan, owner: Any
) -> None:
    """Twenty litres an hour less each day; a cleaning begins the series anew."""
    now = timezone.now()
    for days in range(12):
        flow = (830.0 - 20.0 * days) / 3.6e6
        LogEntry.objects.create(
            plan=split,
            key=uuid4(),
            kind="bucket",
            part="R5",
            at=now - timedelta(days=11 - days),
            values={"volume": 0.01, "times": [0.01 / flow]},
        )
    page = _page(browser, split)
    (words,) = re.findall(r'run-news"><li>(.*?)</li>', page)
    assert re.search(r"is down 2\d% in 11 days. At this pace \w+ \w+ no longer starts in", words)
    browser.post(reverse("enter", args=[split.key, "job"]), {"part": "", "job": "strainer-P1"})
    assert "At this pace" not in _page(browser, split)


def test_a_job_that_is_done_is_no_longer_due(browser: Client, split: SavedPlan) -> None:
    old = timezone.now() - timedelta(days=40)
    LogEntry.objects.create(
        plan=split, key=uuid4(), kind="note", at=old, values={"words": "=begun"}
    )
    page = _page(browser, split)
    assert "26 days over" in page
    browser.post(reverse("enter", args=[split.key, "job"]), {"part": "", "job": "strainer-P1"})
    assert "26 days over" not in _page(browser, split)
    file = browser.get(reverse("log_csv", args=[split.key])).content.decode()
    assert ",'=begun," in file


def test_a_part_offers_what_can_be_measured_there(browser: Client, split: SavedPlan) -> None:
    """Chosen already in the form; of a part that has none, all are offered."""
    plan = browser.get(reverse("plan", args=[split.key]), {"part": "P1"}).content.decode()
    address = reverse("run", args=[split.key])
    assert f'href="{address}?part=P1"' in plan
    page = html.unescape(browser.get(address, {"part": "P1"}).content.decode())
    assert page.count("/run/enter/") - page.count('/enter/job/"') == 2
    assert "/run/enter/watts/?part=P1" in page
    assert "/run/enter/lift/?part=P1" in page
    form = browser.get(reverse("enter", args=[split.key, "level"]), {"part": "S1"})
    assert re.search(r'value="S1"[^>]* checked', form.content.decode())
    for other in ("J1", "nowhere"):
        assert (
            "All that can be entered" not in browser.get(address, {"part": other}).content.decode()
        )


def test_what_is_to_come_or_is_no_kind_is_refused(browser: Client, split: SavedPlan) -> None:
    address = reverse("enter", args=[split.key, "note"])
    for at, words in (("2999-01-01T10:00", "still to come"), ("soon", "Write date")):
        answer = browser.post(address, {"part": "", "words": "x", "at": at})
        assert answer.status_code == 422
        assert words in answer.content.decode()
    assert browser.get(reverse("enter", args=[split.key, "dance"])).status_code == 404
    assert browser.get(reverse("enter", args=[split.key, "feed"])).status_code == 404  # no fish
    fine = browser.post(address, {"part": "", "words": "x", "at": "2026-01-02T10:00", "entry": "?"})
    assert fine.status_code == 302
