"""Parts added, containers and pumps chosen through the inspector."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.plan import Plan
from bathys_web.plans.models import OwnPump, SavedPlan
from bathys_web.plans.storing import plan_of

pytestmark = pytest.mark.django_db
HTMX = {"HX-Request": "true"}


def _take(browser: Client, saved: SavedPlan, **posted: Any) -> str:
    """A change made on the newest revision; the page after it."""
    saved.refresh_from_db()
    words = {"base": saved.current.number, "part": posted.get("target", "site"), **posted}
    address = reverse("take", args=[saved.key, "change"])
    answer = browser.post(address, words, headers=HTMX)
    assert answer.status_code == 200, answer.content[:500]
    return answer.content.decode()


def _plan(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    return plan_of(saved.current)


def test_an_added_bed_is_joined_and_shown(browser: Client, saved: SavedPlan) -> None:
    """What is usual is chosen before; the history says what was joined; the bed is picked."""
    address = reverse("joins", args=[saved.key])
    offered = browser.get(address, {"kind": "grow_bed"}).content.decode()
    assert '<option value="R1" selected>a tee in R1 Riser</option>' in offered
    assert '<option value="T1" selected>T1 Fish tank</option>' in offered
    assert "<select" not in browser.get(address, {"kind": "tee"}).content.decode()
    page = _take(browser, saved, verb="add", kind="grow_bed", feed="R1", drain="T1")
    assert 'data-part="B2"' in page
    assert saved.revisions.order_by("-number")[0].what_changed == (
        "Grow bed B2 added, fed from Riser, drains to Fish tank"
    )
    assert {r.target for r in _plan(saved).runs} >= {"B1", "B2", "T1"}


def test_a_duplicate_is_shown(browser: Client, saved: SavedPlan) -> None:
    page = _take(browser, saved, verb="duplicate", target="B1")
    assert 'data-part="B2"' in page
    page = _take(browser, saved, verb="remove", target="B2")
    assert 'data-part="site"' in page


def test_a_vessel_is_made_of_a_container(browser: Client, saved: SavedPlan) -> None:
    """Listed with what it holds in the reader's units, and told beside the part's name."""
    page = browser.get(reverse("plan", args=[saved.key]), {"part": "T1"}).content.decode()
    assert '<option value="drum-200">Drum, open top, 216 L</option>' in page
    assert "holds 819 L" in page
    page = _take(browser, saved, verb="container", target="T1", container="round-1000")
    assert "holds 1,000 L" in page
    assert "Fish tank: Round tank, 1.25 m" in page
    assert _plan(saved).vessel("T1").shape.kind == "cylinder"
    words = {"base": 2, "part": "T1", "verb": "container", "target": "T1", "container": ""}
    refused = browser.post(reverse("take", args=[saved.key, "change"]), words, headers=HTMX)
    assert refused.status_code == 409
    assert "Choose a vessel and one of the containers." in refused.content.decode()


def test_a_pump_is_replaced_from_one_list(browser: Client, saved: SavedPlan, owner: Any) -> None:
    """The builder's own first, then the samples."""
    OwnPump.objects.create(owner=owner, name="Shed", max_flow=1e-3, max_head=3.0, power=40.0)
    address = reverse("pumps_to_choose", args=[saved.key])
    offered = browser.get(address, {"part": "P1"}).content.decode()
    groups = offered.split("<optgroup")
    assert 'label="Your pumps"' in groups[1]
    assert "Shed: 3,600 L/h, 3 m, 40 W" in groups[1]
    assert 'label="Sample pumps"' in groups[2]
    _take(browser, saved, verb="pump", target="P1", pump="Shed")
    assert _plan(saved).pumps[0].power == 40.0
    words = {"base": 2, "part": "P1", "verb": "pump", "target": "P1", "pump": "no such"}
    refused = browser.post(reverse("take", args=[saved.key, "change"]), words, headers=HTMX)
    assert "Choose one of the pumps in the list." in refused.content.decode()
