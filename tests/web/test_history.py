"""The past of a plan: listed, gone back to, and none of it lost."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.plan import Plan
from bathys_web.plans.history import history_of
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of

FLOOR = "vessels.B1.floor_height"


def _raise(client: Client, saved: SavedPlan, base: int, text: str) -> None:
    data = {"path": FLOOR, "text": text, "base": base, "part": "B1"}
    assert client.post(reverse("edit", args=[saved.key]), data).status_code == 302


def _go(client: Client, saved: SavedPlan, base: int, number: Any) -> Any:
    data = {"base": base, "number": number}
    return client.post(reverse("go_to", args=[saved.key]), data, follow=True)


def _plan(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    assert saved.head is not None
    return plan_of(saved.head)


def test_any_revision_can_be_gone_back_to(browser: Client, saved: SavedPlan) -> None:
    """And what was made from others stays in the list, told apart."""
    first = _plan(saved)
    _raise(browser, saved, 1, "1200 mm")
    _raise(browser, saved, 2, "1300 mm")
    assert _go(browser, saved, 3, 1).status_code == 200
    assert _plan(saved) == first
    _raise(browser, saved, 1, "900 mm")
    _plan(saved)  # as it stands
    rows = history_of(saved)
    assert [r.revision.number for r in rows] == [4, 3, 2, 1]
    assert [r.made_from for r in rows] == [1, None, None, None]
    assert [r.is_on_the_way for r in rows] == [True, False, False, True]
    page = browser.get(reverse("history", args=[saved.key])).content.decode()
    assert "floor height 1200 mm → 1300 mm" in page
    assert page.count(">undone<") == 2
    assert page.count("<b>current</b>") == 1
    _go(browser, saved, 4, 3)
    assert _plan(saved).vessel("B1").floor_height == pytest.approx(1.3)


def test_redo_is_offered_where_there_is_something_to_go_on_to(
    browser: Client, saved: SavedPlan
) -> None:
    """Also after an undo, and no more after another edit; no number is given twice."""

    def offers_redo() -> bool:
        page = browser.get(reverse("plan", args=[saved.key])).content.decode()
        button = page.split('<button id="redo"')[1].split(">")[0]
        return "disabled" not in button

    _raise(browser, saved, 1, "1200 mm")
    assert not offers_redo()
    browser.post(reverse("undo", args=[saved.key]), {"base": 2})
    assert offers_redo()
    _raise(browser, saved, 1, "1300 mm")
    assert not offers_redo()
    _plan(saved)
    assert saved.head is not None
    assert saved.last_number == saved.head.number == 3


@pytest.mark.parametrize("number", ["9", "-1", "two", ""])
def test_there_is_no_going_where_nothing_is(browser: Client, saved: SavedPlan, number: str) -> None:
    """A sentence says so, and nothing moves."""
    page = _go(browser, saved, 1, number).content.decode()
    assert "no such revision" in page
    assert _plan(saved) is not None
    assert saved.head is not None
    assert saved.head.number == 1


def test_a_long_past_has_pages(browser: Client, saved: SavedPlan) -> None:
    """The newest on the first, the first on the last."""
    for base in range(1, 53):
        _raise(browser, saved, base, f"{1100 + base} mm")
    address = reverse("history", args=[saved.key])
    newest, oldest = (browser.get(address, {"page": n}).content.decode() for n in (1, 2))
    assert "1151 mm → 1152 mm" in newest
    assert "imported" not in newest
    assert "Page 2 of 2" in oldest
    assert "1100 mm → 1101 mm" in oldest


def test_the_past_is_its_owners(saved: SavedPlan, stranger: Any) -> None:
    """Nobody else sees it or walks it."""
    client = Client()
    client.force_login(stranger)
    assert client.get(reverse("history", args=[saved.key])).status_code == 404
    assert _go(client, saved, 1, 1).status_code == 404


def test_a_variant_is_a_plan_of_its_own(browser: Client, saved: SavedPlan) -> None:
    """Copied as it stands or as a revision had it; changed apart; held beside what it came from."""
    first = _plan(saved)
    _raise(browser, saved, 1, "1200 mm")
    address = reverse("copy", args=[saved.key])
    for data, height in (({}, 1.2), ({"number": "1"}, 1.1), ({"number": "77"}, 1.2)):
        page = browser.post(address, data, follow=True)
        variant = SavedPlan.objects.order_by("-created").first()
        assert variant is not None
        assert page.redirect_chain[-1][0] == reverse("plan", args=[variant.key])
        plan = _plan(variant)
        assert plan.vessel("B1").floor_height == pytest.approx(height)
        assert plan.name == f"{first.name}, variant"
    _raise(browser, variant, 1, "1400 mm")
    assert _plan(saved).vessel("B1").floor_height == pytest.approx(1.2)
    beside = browser.get(reverse("compare", args=[variant.key])).content.decode()
    assert "revision 2: copied from it" in beside  # what a variant is held against unasked
    assert ">1200 mm<" in beside
    assert ">1400 mm<" in beside
    again = browser.post(reverse("copy", args=[variant.key]), follow=True)
    assert f"{first.name}, variant, variant" not in again.content.decode()
    browser.post(reverse("delete", args=[saved.key]))
    assert browser.get(reverse("compare", args=[variant.key])).status_code == 200
