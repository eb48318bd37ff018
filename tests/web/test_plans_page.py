"""Plans found again: search, order, labels, archive and pictures."""

import re
from typing import Any
from xml.etree import ElementTree

import pytest
from django.test import Client
from django.urls import reverse

from bathys.edits import Edit, apply_edits
from bathys.plan import Plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan


def _named(owner: Any, plan: Plan, name: str, purpose: str) -> SavedPlan:
    edits = [Edit("name", name), Edit("brief.purpose", purpose)]
    return create_plan(owner, apply_edits(plan, edits), "made for a test")


@pytest.fixture
def three(owner: Any, demo_plan: Plan) -> list[SavedPlan]:
    """Three plans, the first made first."""
    return [
        _named(owner, demo_plan, "cellar rafts", "lettuce under lamps"),
        _named(owner, demo_plan, "Attic beds", "herbs"),
        _named(owner, demo_plan, "Barn", "LETTUCE and perch"),
    ]


def _shown(browser: Client, **asked: str) -> list[str]:
    page = browser.get(reverse("plans"), asked).content.decode()
    return re.findall(r'class="plans-name"[^>]*>([^<]*)<', page)


def test_plans_are_searched_and_sorted(browser: Client, three: list[SavedPlan]) -> None:
    """By any word of name, purpose and label, whatever its case; by name or age."""
    assert _shown(browser) == ["Barn", "Attic beds", "cellar rafts"]
    assert _shown(browser, sort="name") == ["Attic beds", "Barn", "cellar rafts"]
    assert _shown(browser, q="lettuce", sort="name") == ["Barn", "cellar rafts"]
    assert _shown(browser, q="perch lettuce") == ["Barn"]
    browser.post(reverse("label", args=[three[1].key]), {"labels": " for  Anna's roof , roof,roof"})
    assert _shown(browser, q="ROOF") == ["Attic beds"]
    assert _shown(browser, label="roof") == ["Attic beds"]
    assert _shown(browser, label="oof") == []
    assert _shown(browser, q="100%_\\'\"") == []
    assert "No plan matches" in browser.get(reverse("plans"), {"q": "zzz"}).content.decode()
    three[1].refresh_from_db()
    assert three[1].labels == ["for Anna's roof", "roof"]


def test_an_archived_plan_is_out_of_the_way_and_comes_back(
    browser: Client, three: list[SavedPlan]
) -> None:
    """It is not changed by that, and opens as before."""
    barn = three[2]
    before = barn.touched
    answer = browser.post(
        reverse("archive", args=[barn.key]), {"archived": "1", "asked": "sort=name"}
    )
    assert answer["Location"] == f"{reverse('plans')}?sort=name"
    assert _shown(browser) == ["Attic beds", "cellar rafts"]
    assert _shown(browser, archive="1") == ["Barn"]
    assert "Archive (1)" in browser.get(reverse("plans")).content.decode()
    assert browser.get(reverse("plan", args=[barn.key])).status_code == 200
    barn.refresh_from_db()
    assert barn.touched == before
    browser.post(reverse("archive", args=[barn.key]), {"archived": "0"})
    assert _shown(browser) == ["Barn", "Attic beds", "cellar rafts"]


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        (", ".join(f"label {n}" for n in range(7)), "up to 6 labels"),
        ("x" * 31, "up to 30 letters"),
    ],
)
def test_labels_that_are_not_taken_say_why(
    browser: Client, saved: SavedPlan, typed: str, words: str
) -> None:
    """And those that were there stay."""
    browser.post(reverse("label", args=[saved.key]), {"labels": "kept"})
    page = browser.post(reverse("label", args=[saved.key]), {"labels": typed}, follow=True)
    assert words in page.content.decode()
    saved.refresh_from_db()
    assert saved.labels == ["kept"]


def test_no_redirect_leads_away(browser: Client, saved: SavedPlan) -> None:
    """What a form says of where to go back to is only ever a query of this page."""
    answer = browser.post(
        reverse("archive", args=[saved.key]), {"archived": "1", "asked": "//elsewhere.example/?x"}
    )
    assert answer["Location"].startswith(f"{reverse('plans')}?")


def test_the_side_view_is_a_file_of_its_own(browser: Client, owner: Any, demo_plan: Plan) -> None:
    """Well-formed whatever the plan is called; small, it holds no figure."""
    saved = _named(owner, demo_plan, 'A & B <i>"pond"', "")
    address = reverse("picture", args=[saved.key])
    whole = browser.get(address)
    root = ElementTree.fromstring(whole.content)  # noqa: S314 - our own
    texts = " ".join("".join(e.itertext()) for e in root.iter())
    assert 'A & B <i>"pond"' in texts
    assert "mm" in texts
    small = browser.get(address, {"small": "1"})
    assert "no-store" in small["Cache-Control"]  # it is somebody's own
    assert len(small.content) < 0.6 * len(whole.content)
    assert not list(ElementTree.fromstring(small.content).iter("{*}text"))  # noqa: S314
