"""A bench of two plans, the one beside the other."""

import re
from collections import Counter
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.edits import Edit, apply_edits
from bathys.plan import Plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.keep_as_built import keep_as_built
from bathys_web.plans.benches import benches_of
from bathys_web.plans.models import SavedPlan

pytestmark = pytest.mark.django_db


@pytest.fixture
def built(saved: SavedPlan, owner: Any) -> SavedPlan:
    """The plan as it was built: its pump is worn."""
    return keep_as_built(saved.current, owner, [Edit("pumps.P1.wear", 0.9)])


@pytest.mark.usefixtures("built")
def test_every_bench_shows_the_plan_beside_what_was_built(
    browser: Client, saved: SavedPlan, demo_plan: Plan
) -> None:
    """The variant is found by itself; nothing stands on the page twice, and nothing is built from
    it."""
    for bench in benches_of(demo_plan):
        address = reverse("beside", args=[saved.key, bench.key])
        answer = browser.post(address)
        assert answer.status_code == 302, bench.key
        words = browser.get(answer.url).content.decode()
        columns = words.partition('class="beside-columns"')[2].partition("Scales of drawings")[0]
        assert columns.count('class="beside-column"') == 2, bench.key
        assert f">{demo_plan.name}, as built</a>" in columns
        ids = Counter(re.findall(r'\sid="([^"]+)"', words))
        assert ids.most_common(1)[0][1] == 1, (bench.key, ids.most_common(3))
        assert "<form" not in columns, bench.key


@pytest.mark.usefixtures("built")
def test_what_is_chosen_holds_for_both(browser: Client, saved: SavedPlan) -> None:
    """A simulation with a power cut is followed on either side; a typing mistake is told once."""
    address = reverse("beside", args=[saved.key, "hours"])
    asked = {"hours": "3 h", "cut": "1 h", "lasts": "30 min", "event": ""}
    answer = browser.post(address, asked)
    words = browser.get(answer.url).content.decode()
    assert words.count("Levels over") == 2
    assert words.count("Broken lines: without the events.") == 2
    wrong = browser.post(address, {**asked, "hours": "often"}).content.decode()
    assert wrong.count('id="scenario-hours-error"') == 1
    assert 'value="often"' in wrong


def test_figures_are_each_plan_s_own(browser: Client, saved: SavedPlan, built: SavedPlan) -> None:
    """Each column says what the plan's own bench says, and either plan may be the first."""
    flows = []
    for one in (saved, built):
        words = browser.get(reverse("bench", args=[one.key, "pump"])).content.decode()
        flows.append(re.findall(r"<dt>flow</dt><dd>([^<]+)", words)[0])
    assert flows[0] != flows[1]
    for one, wanted in ((saved, flows), (built, flows[::-1])):
        words = browser.get(reverse("beside", args=[one.key, "pump"])).content.decode()
        assert re.findall(r"<dt>flow</dt><dd>([^<]+)", words) == wanted


def test_a_plan_alone_says_how_to_come_by_another(
    browser: Client, saved: SavedPlan, demo_plan: Plan, stranger: Any
) -> None:
    """No error; a stranger's plan is not to be had, and one that is no kin has to be chosen."""
    address = reverse("beside", args=[saved.key, "siphon"])
    assert "There is no other plan yet" in browser.get(address).content.decode()
    foreign = create_plan(stranger, demo_plan, "not mine")
    assert browser.get(address, {"other": str(foreign.key)}).status_code == 404
    assert browser.get(address, {"other": "x"}).status_code == 404
    assert browser.get(reverse("beside", args=[saved.key, "none"])).status_code == 404
    bare = apply_edits(demo_plan, [Edit("name", "Bare pair")])
    other = create_plan(saved.owner, bare, "made for a test")  # type: ignore[arg-type]
    words = browser.get(address).content.decode()
    assert "choose a plan" in words
    assert 'class="beside-column"' not in words
    assert "Bare pair</a>" in browser.get(address, {"other": str(other.key)}).content.decode()
