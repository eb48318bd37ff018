"""Parts as practice builds them, typed, chosen and shown."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.plan import Plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.benches import benches_of
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.starters import PRACTICE, starter
from bathys_web.plans.storing import plan_of

HTMX = {"HX-Request": "true"}


def _plan(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    assert saved.head is not None
    return plan_of(saved.head)


def _type(browser: Client, saved: SavedPlan, path: str, text: str, status: int = 200) -> str:
    saved.refresh_from_db()
    assert saved.head is not None
    data = {"path": path, "text": text, "base": saved.head.number, "part": path.split(".")[1]}
    answer = browser.post(reverse("edit", args=[saved.key]), data, headers=HTMX)
    assert answer.status_code == status, answer.content[:400]
    return answer.content.decode()


@pytest.mark.parametrize("layout", PRACTICE)
def test_every_bench_of_a_layout_of_practice_is_shown(
    browser: Client, owner: Any, layout: str
) -> None:
    """The page and each bench that has something to say of it, in both systems of units."""
    saved = create_plan(owner, starter(layout), "made for a test")
    page = browser.get(reverse("plan", args=[saved.key])).content.decode()
    assert "Water in the system" in page
    for bench in benches_of(_plan(saved)):
        answer = browser.get(reverse("bench", args=[saved.key, bench.key]))
        assert answer.status_code == 200, bench.key
        assert bench.asks in answer.content.decode()


def test_lines_of_holes_tubes_and_spells_are_typed(browser: Client, owner: Any) -> None:
    """In any unit and with any of the usual marks; what cannot be read stands beside its sentence,
    and empty boxes take the lines away."""
    saved = create_plan(owner, starter("ferry-loft"), "made for a test")
    _type(browser, saved, "siphons.S1.hole_rows", "10 x 1/2 in at 20 mm\n8×10 mm at 1 in")
    _type(browser, saved, "siphons.S1.air_tubes", "8 mm at 2 in")
    bell: Any = _plan(saved).part("S1")
    assert [(r.count, round(r.diameter, 4)) for r in bell.hole_rows] == [(10, 0.0127), (8, 0.01)]
    assert [t.mouth_height for t in bell.air_tubes] == [pytest.approx(0.0508)]
    refused = _type(browser, saved, "siphons.S1.hole_rows", "ten holes", 422)
    assert "Line 1 wants a number, a drill size and a height: 12 × 8 mm at 30 mm." in refused
    assert "ten holes" in refused
    refused = _type(browser, saved, "siphons.S1.air_tubes", "8 mm at 40 cm", 422)
    assert "must end below the standpipe&#x27;s rim" in refused
    _type(browser, saved, "siphons.S1.cup_depth", "0")
    _type(browser, saved, "siphons.S1.air_tubes", "")
    assert _plan(saved).part("S1").air_tubes == ()
    _type(browser, saved, "pumps.P1.switch.kind", "spells")
    page = _type(browser, saved, "pumps.P1.switch.spells", "6:00-9:30\n16:00 until 8 pm")
    assert 'class="day-run" x="25.0" width="14.58"' in page
    _type(browser, saved, "pumps.P1.switch.days", "mon thu")
    switch: Any = _plan(saved).part("P1").switch
    assert [(s.begins, s.ends) for s in switch.spells] == [(21600, 34200), (57600, 72000)]
    assert switch.days == ("mon", "thu")
    refused = _type(browser, saved, "pumps.P1.switch.spells", "6:00 to 25:00", 422)
    assert "is no time of the day" in refused


def test_a_way_is_chosen_and_taken_back(browser: Client, owner: Any) -> None:
    """One press each, told in the history; a way that is none is refused in a sentence."""
    saved = create_plan(owner, starter("stacked-pair"), "made for a test")
    for number, expected in enumerate(("ring", "open"), start=1):
        data = {"verb": "practice", "target": "feed_place", "way": "ring", "base": number}
        answer = browser.post(
            reverse("take", args=[saved.key, "change"]), {**data, "part": "site"}, headers=HTMX
        )
        assert answer.status_code == 200
        assert _plan(saved).brief.feed_place == expected
    gone = browser.post(
        reverse("take", args=[saved.key, "change"]),
        {"verb": "practice", "target": "feed_place", "way": "moon", "base": 3, "part": "site"},
        headers=HTMX,
    )
    assert gone.status_code == 409
    history = browser.get(reverse("history", args=[saved.key])).content.decode()
    assert "Where water enters a bed: by a ring of holes round the bed" in history
