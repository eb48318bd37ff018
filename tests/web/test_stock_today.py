"""The fish of today: what the log tells of them, and taken into the plan."""

import html
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.edits import Edit, apply_edits
from bathys.plan import load_plan
from bathys.quality.sowing import rotas_of
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import assessment_of, plan_of
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.django_db


@pytest.fixture
def garden(owner: Any) -> SavedPlan:
    """A plan with fish and plants."""
    path = Path(EXAMPLE).parent / "fish-and-leaves.json"
    return create_plan(owner, load_plan(path.read_bytes()), "made for a test")


def _enter(browser: Client, saved: SavedPlan, kind: str, **told: str) -> Any:
    fish = plan_of(saved.current).fish[0].id
    address = reverse("enter", args=[saved.key, kind])
    return browser.post(address, {"part": fish, "entry": str(uuid4()), **told})


def _run(browser: Client, saved: SavedPlan) -> str:
    return html.unescape(browser.get(reverse("run", args=[saved.key])).content.decode())


def test_the_fish_of_today_are_taken_into_the_plan_once(browser: Client, garden: SavedPlan) -> None:
    """The page says how plan and log differ; taken, feed follows, and nothing is counted twice."""
    fish = plan_of(garden.current).fish[0]
    assert "Take the fish of today" not in _run(browser, garden)
    assert _enter(browser, garden, "deaths", count="2").status_code == 302
    each = 1.5 * fish.mean_mass
    _enter(browser, garden, "netted", count="10", mass=f"{10.0 * each:.3f} kg")
    _enter(browser, garden, "caught", count="3", unfed="3 days", value="20")
    page = _run(browser, garden)
    assert f"the log has {fish.count - 5}, " in page
    before = assessment_of(garden.current).evaluation.plan.fish[0].feed
    address = reverse("take_stock", args=[garden.key])
    browser.post(address, {"base": garden.current.number})
    garden.refresh_from_db()
    (now,) = plan_of(garden.current).fish
    assert (now.count, now.mean_mass) == (fish.count - 5, pytest.approx(each, rel=1e-3))
    after = assessment_of(garden.current).evaluation.plan.fish[0].feed
    assert after == pytest.approx(before * 1.5 * now.count / fish.count, rel=1e-3)
    page = _run(browser, garden)
    assert "Take the fish of today" not in page
    assert f"{now.count} counted: {now.count} now" not in page
    assert LogEntry.objects.get(plan=garden, kind="counted").values == {"count": now.count}
    _enter(browser, garden, "deaths", count="1")
    assert f"{now.count} counted, 1 died: {now.count - 1} now" in _run(browser, garden)


def test_what_has_changed_elsewhere_is_not_taken(
    browser: Client, garden: SavedPlan, stranger: Any
) -> None:
    """Nor twice, nor by somebody else; each time it is said why, and nothing is written."""
    _enter(browser, garden, "deaths", count="2")
    address = reverse("take_stock", args=[garden.key])
    told = browser.post(address, {"base": "0"}, follow=True).content.decode()
    assert "changed elsewhere" in told
    assert not LogEntry.objects.filter(kind="counted").exists()
    browser.post(address, {"base": garden.current.number})
    garden.refresh_from_db()
    again = browser.post(address, {"base": garden.current.number}, follow=True)
    assert "has the fish that the log tells of already" in again.content.decode()
    assert LogEntry.objects.filter(kind="counted").count() == 1
    other = Client()
    other.force_login(stranger)
    assert other.post(address, {"base": "2"}).status_code == 404


def test_a_season_tells_of_ripe_fish_and_of_the_rota(browser: Client, garden: SavedPlan) -> None:
    """When fish are as heavy as planned for harvest, and what was sown beside the rota."""
    plan = plan_of(garden.current)
    fish = plan.fish[0]
    each = 0.95 * fish.harvest_mass
    _enter(browser, garden, "netted", count="4", mass=f"{4.0 * each:.3f} kg")
    rotas = rotas_of(assessment_of(garden.current).evaluation)
    bed = max(rotas, key=lambda r: r.harvested).vessel
    for days, count in ((40, 30), (10, 2)):
        LogEntry.objects.create(
            plan=garden,
            key=uuid4(),
            kind="sown",
            part=bed.id,
            values={"what": "{basil}", "count": count},
            at=timezone.now() - timedelta(days=days),
        )
    page = _run(browser, garden)
    assert "unfed in clean water for two or three days" in page
    assert f"{bed.name}, last four weeks: 2 sown or planted out, 0 heads harvested." in page
    assert "So few leave places empty." in page


def test_grading_does_the_job_of_grading(browser: Client, garden: SavedPlan, owner: Any) -> None:
    """Young fish that were not graded for weeks are due; once they are, no longer."""
    plan = plan_of(garden.current)
    young = Edit(f"fish.{plan.fish[0].id}.mean_mass", 0.02)
    garden = create_plan(owner, apply_edits(plan, [young]), "made for a test")
    LogEntry.objects.create(
        plan=garden,
        key=uuid4(),
        kind="note",
        part="",
        values={"words": "water in"},
        at=timezone.now() - timedelta(days=40),
    )
    assert "Grade " in _run(browser, garden).partition("Due within a week")[2].partition("<h2")[0]
    answer = _enter(browser, garden, "graded", small="40", large="12", gap="12 mm")
    assert answer.status_code == 302
    page = _run(browser, garden)
    assert "Grade " not in page.partition("Due within a week")[2].partition("<h2")[0]
    assert "Small ones: 40" in page
    wrong = _enter(browser, garden, "graded", small="-3", large="12")
    assert wrong.status_code == 422
    assert 'value="-3"' in wrong.content.decode()
