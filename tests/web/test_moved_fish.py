"""Fish that are moved between tanks and plans, through the log."""

import html
import json
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth import get_user_model
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.destinations import destinations
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.django_db


def _plan(owner: Any, name: str) -> SavedPlan:
    path = Path(EXAMPLE).parent / f"{name}.json"
    return create_plan(owner, load_plan(path.read_bytes()), "made for a test")


@pytest.fixture
def nursery(owner: Any) -> SavedPlan:
    """Where fish come from."""
    return _plan(owner, "fish-and-leaves")


@pytest.fixture
def garden(owner: Any) -> SavedPlan:
    """Where they go to."""
    return _plan(owner, "raft-line")


def _move(browser: Client, saved: SavedPlan, to: str, **more: str) -> Any:
    fish = plan_of(saved.current).fish[0].id
    told = {"part": fish, "count": "12", "to": to, "mass": "600 g", "entry": str(uuid4()), **more}
    return browser.post(reverse("enter", args=[saved.key, "moved"]), told)


def _there(garden: SavedPlan, nursery: SavedPlan) -> str:
    return next(words for words, (plan, _) in destinations(nursery).items() if plan == garden)


def test_fish_moved_to_another_plan_come_there_once(
    browser: Client, nursery: SavedPlan, garden: SavedPlan
) -> None:
    """Where to is put forward; sent twice they come once; both logs say how many there are now; a
    mistake deleted here is gone there."""
    to = _there(garden, nursery)
    form = html.unescape(
        browser.get(reverse("enter", args=[nursery.key, "moved"])).content.decode()
    )
    assert f'<option value="{to}">' in form
    key = str(uuid4())
    for _ in range(2):
        assert _move(browser, nursery, to, entry=key).status_code == 302
    came = LogEntry.objects.get(plan=garden)
    assert (came.kind, came.values["count"]) == ("came", 12.0)
    assert came.values["mass"] == pytest.approx(0.6)
    assert plan_of(nursery.current).name in came.values["of"]
    fish, others = plan_of(garden.current).fish[0], plan_of(nursery.current).fish[0]
    log = html.unescape(browser.get(reverse("run", args=[garden.key])).content.decode())
    assert f"{fish.count} planned, 12 came: {fish.count + 12} now" in log
    log = html.unescape(browser.get(reverse("run", args=[nursery.key])).content.decode())
    assert f"{others.count} planned, 12 moved: {others.count - 12} now" in log
    moved = LogEntry.objects.get(plan=nursery)
    browser.post(reverse("delete_entry", args=[nursery.key, moved.pk]))
    assert not LogEntry.objects.exists()


def test_fish_that_go_elsewhere_come_nowhere(
    browser: Client, nursery: SavedPlan, garden: SavedPlan
) -> None:
    """Sold, given away, or to where they are: only this log says it."""
    plan = plan_of(nursery.current)
    own = f"{plan.names[plan.fish[0].id]} in {plan.names[plan.fish[0].stands_in]}"
    for to in ("sold at the gate", own, "<b>pond</b>"):
        assert _move(browser, nursery, to).status_code == 302
    assert set(LogEntry.objects.values_list("kind", flat=True)) == {"moved"}
    log = browser.get(reverse("run", args=[nursery.key])).content.decode()
    assert "&lt;b&gt;pond" in log


def test_nobody_elses_fish_are_put_forward(
    browser: Client, nursery: SavedPlan, stranger: Any
) -> None:
    """Though the same words are typed, nothing is written into a stranger's log."""
    theirs = _plan(stranger, "raft-line")
    names = destinations(nursery)
    assert all(plan.owner_id == nursery.owner_id for plan, _ in names.values())
    plan = plan_of(theirs.current)
    fish = plan.fish[0]
    _move(browser, nursery, f"{plan.names[fish.id]} in {plan.names[fish.stands_in]}, {plan.name}")
    assert not LogEntry.objects.filter(plan=theirs).exists()


def test_what_waited_on_a_phone_moves_fish_too(
    browser: Client, nursery: SavedPlan, garden: SavedPlan
) -> None:
    page = browser.get(reverse("offline_log", args=[nursery.key])).content.decode()
    to = _there(garden, nursery)
    assert to in html.unescape(page)
    now = timezone.now().timestamp()
    entry = {
        "key": str(uuid4()),
        "kind": "moved",
        "part": plan_of(nursery.current).fish[0].id,
        "typed": {"count": "3", "to": to},
        "units": "metric",
        "at": now - 3600,
        "is_at_typed": False,
        "note": "",
        "photo": "",
    }
    for _ in range(2):
        browser.post(
            reverse("send_entries", args=[nursery.key]),
            json.dumps({"entries": [entry], "now": now}),
            content_type="application/json",
        )
    came = LogEntry.objects.get(plan=garden)
    assert came.values["count"] == 3.0
    assert "mass" not in came.values


def test_archived_plans_are_not_put_forward(nursery: SavedPlan, garden: SavedPlan) -> None:
    assert any(plan == garden for plan, _ in destinations(nursery).values())
    SavedPlan.objects.filter(pk=garden.pk).update(is_archived=True)
    assert not any(plan == garden for plan, _ in destinations(nursery).values())
    owner = get_user_model().objects.get()
    assert owner.pk == nursery.owner_id
