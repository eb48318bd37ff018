"""Two revisions side by side: only what differs, and what that does."""

import pytest
from django.test import Client
from django.urls import reverse

from bathys.edits import apply_edits, duplicate_part, raise_part
from bathys.plan import Plan, differences
from bathys_web.plans.actions.apply_change import apply_change
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan

pytestmark = pytest.mark.django_db


def _raised(saved: SavedPlan, by: float) -> SavedPlan:
    apply_change(
        saved, saved.owner, saved.head.number, lambda plan: (raise_part(plan, "B1", by), "raised")
    )
    saved.refresh_from_db()
    return saved


def test_a_raised_bed_differs_in_its_floor_and_in_its_flow(
    browser: Client, saved: SavedPlan
) -> None:
    """One field, and the figures that follow from it; each side drawn."""
    _raised(saved, 0.2)
    page = browser.get(reverse("compare", args=[saved.key]), {"one": "1", "two": "2"})
    words = page.content.decode()
    assert page.status_code == 200
    assert words.count("Floor height") == 1
    assert "Pumped flow" in words
    assert words.count("<svg viewBox") >= 2
    assert 'id="side-view"' not in words


def test_the_same_twice_differs_in_nothing_and_nonsense_falls_back(
    browser: Client, saved: SavedPlan
) -> None:
    """Told, not an error; another owner's plan is not to be had."""
    address = reverse("compare", args=[saved.key])
    assert "No figure changes" in browser.get(address).content.decode()
    for asked in ("99", "x", "not-a-key/1", "0" * 40):
        assert browser.get(address, {"one": asked}).status_code == 200


def test_another_plan_can_stand_beside_it(
    browser: Client, saved: SavedPlan, demo_plan: Plan, stranger: object
) -> None:
    """By its key; not a stranger's."""
    other = create_plan(saved.owner, demo_plan, "another")  # type: ignore[arg-type]
    _raised(other, 0.1)
    address = reverse("compare", args=[saved.key])
    words = browser.get(address, {"two": f"{other.key}/2"}).content.decode()
    assert "Floor height" in words
    foreign = create_plan(stranger, demo_plan, "not mine")  # type: ignore[arg-type]
    _raised(foreign, 0.3)
    words = browser.get(address, {"two": f"{foreign.key}/2"}).content.decode()
    assert "No figure changes" in words


def test_differences_name_parts_that_only_one_has(demo_plan: Plan) -> None:
    """And are empty between a plan and itself."""
    assert differences(demo_plan, demo_plan) == ()
    edits, new = duplicate_part(demo_plan, "B1")
    found = differences(demo_plan, apply_edits(demo_plan, edits))
    assert {d.part for d in found if not d.path} >= {new}
    whole = {d.part for d in found if not d.path}
    assert all(d.before is None for d in found if d.part in whole)
    # What was there before is as it was, but for the riser, which begins at a tee now, and a hole
    # more in the tank for the second tail.
    others = [d for d in found if d.part not in whole]
    assert {d.part for d in others} == {"R1", "T1"}
    assert [d.path for d in others if d.part == "R1"] == ["from"]
    assert all(d.before is None and "return2" in d.path for d in others if d.part == "T1")
