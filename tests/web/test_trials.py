"""Trials: two parts compared, begun and read as a newcomer would; nobody else's plan is reached."""

from datetime import timedelta
from typing import Any
from uuid import uuid4

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.plan import Plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import LogEntry, SavedPlan, Trial

pytestmark = pytest.mark.django_db(transaction=True)


def _harvests(saved: SavedPlan, part: str, masses: tuple[float, ...]) -> None:
    for week, mass in enumerate(masses):
        LogEntry.objects.create(
            plan=saved,
            key=uuid4(),
            kind="harvest",
            part=part,
            at=timezone.now() - timedelta(days=7 * (len(masses) - week)),
            values={"what": "basil", "mass": mass},
        )


def test_two_beds_of_two_plans_are_compared(
    saved: SavedPlan, owner: Any, demo_plan: Plan, browser: Client
) -> None:
    other = create_plan(owner, demo_plan, "the same again")
    _harvests(saved, "B1", (1.0, 1.2, 1.1, 1.3, 1.2))
    _harvests(other, "B1", (1.9, 2.2, 2.0, 2.1, 2.3))
    address = reverse("trials", args=[saved.key])
    typed = {
        "title": "Deep <b>bed</b>",
        "differs": "depth",
        "measure": "harvest",
        "first": "B1",
        "second": f"{other.key} B1",
        "days": "60",
    }
    assert browser.post(address, typed).status_code == 302
    page = browser.get(address).content.decode()
    assert "gives" in page
    assert "Deep &lt;b&gt;bed" in page
    assert "What should be equal" in page
    assert "It lies between 0.798 kg and 1.08 kg, to 95 %" in page
    assert "measure more often" in page  # five pairs are few
    browser.post(reverse("delete_trial", args=[saved.key, Trial.objects.get().pk]))
    assert not Trial.objects.exists()
    assert LogEntry.objects.count() == 10


@pytest.mark.parametrize(
    ("change", "why"),
    [
        ({"title": " "}, "Give it a title"),
        ({"measure": "luck"}, "Choose what they are compared by"),
        ({"first": "P1"}, "at which that is measured"),
        ({"second": "nothing"}, "at which that is measured"),
        ({"second": "{own} B1"}, "cannot be compared with itself"),
        ({"second": "{strange} B1"}, "at which that is measured"),
    ],
)
def test_what_cannot_be_compared_is_told_and_kept(
    saved: SavedPlan,
    stranger: Any,
    demo_plan: Plan,
    browser: Client,
    change: dict[str, str],
    why: str,
) -> None:
    strange = create_plan(stranger, demo_plan, "somebody else's")
    typed = {
        "title": "Mine",
        "differs": "depth",
        "measure": "harvest",
        "first": "B1",
        "second": f"{saved.key} B1",
    }
    keys = {"own": str(saved.key), "strange": str(strange.key)}
    typed |= {
        field: value.replace("{own}", keys["own"]).replace("{strange}", keys["strange"])
        for field, value in change.items()
    }
    answer = browser.post(reverse("trials", args=[saved.key]), typed)
    assert answer.status_code == 422
    assert why in answer.content.decode()
    assert not Trial.objects.exists()
