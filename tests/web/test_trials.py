"""Trials: two parts compared, begun and read as a newcomer would; nobody else's plan is reached."""

import io
import re
from datetime import timedelta
from typing import Any
from uuid import uuid4

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from bathys.plan import Plan, load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import LogEntry, LogPhoto, SavedPlan, Trial
from bathys_web.plans.trial_page import trials_due
from tests.conftest import EXAMPLE

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


def test_both_parts_are_due_on_their_days_and_no_longer_once_it_is_written_down(
    owner: Any, browser: Client
) -> None:
    """On the page of the trial and among what is due, each with a link to where it is entered; a
    photo counts, a note without one does not."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    part = plan.fish[0].id
    saved, other = (create_plan(owner, plan, "made for a test") for _ in range(2))
    trial = Trial.objects.create(
        plan=saved,
        title="Two <i>feeds</i>",
        differs="feed",
        measure="eaten",
        first=part,
        second=part,
        other=other,
    )
    Trial.objects.update(began=timezone.now() - timedelta(days=8.5))

    def due() -> list[str]:
        page = browser.get(reverse("run", args=[saved.key])).content.decode()
        assert "Two &lt;i&gt;feeds" in page or not trials_due(trial, timezone.now())
        return [f"{row.what} {row.key}" for row in trials_due(trial, timezone.now())]

    def write(plan: SavedPlan, kind: str, values: dict[str, Any], days: float) -> LogEntry:
        at = timezone.now() - timedelta(days=days)
        return LogEntry.objects.create(
            plan=plan, key=uuid4(), kind=kind, part=part, at=at, values=values
        )

    trial.refresh_from_db()
    eaten = "Seconds until feed is eaten"
    assert due() == [
        *(f"{eaten} {plan.key}" for plan in (saved, other)),
        *(f"Photograph {plan.key}" for plan in (saved, other)),
    ]
    page = browser.get(reverse("trials", args=[saved.key])).content.decode()
    for plan, kind in ((saved, "feed"), (other, "feed"), (other, "note")):
        link = reverse("enter", args=[plan.key, kind])
        assert f"{link}?part={part}" in page
        assert browser.get(link, {"part": part}).status_code == 200
    write(saved, "feed", {"mass": 0.1, "eaten": 50.0}, 1.4)
    write(other, "feed", {"mass": 0.1, "eaten": 50.0}, 1.6)  # before the latest day for it
    write(other, "feed", {"mass": 0.1}, 0.1)  # nobody looked how long
    write(saved, "note", {"words": "no picture"}, 0.2)
    LogPhoto.objects.create(entry=write(other, "note", {"words": "both"}, 0.2), image=b"1")
    assert due() == [f"{eaten} {other.key}", f"Photograph {saved.key}"]


def test_beds_of_a_trial_are_photographed_once_a_week(saved: SavedPlan, browser: Client) -> None:
    """What is weighed when it comes is not due; the note of a bed is kept with its picture."""
    Trial.objects.create(
        plan=saved, title="Beds", differs="media", measure="harvest", first="B1", second="B1"
    )
    trial = Trial.objects.get()
    assert {(row.what, row.part) for row in trials_due(trial, timezone.now())} == {
        ("Photograph", "B1")
    }
    address = reverse("enter", args=[saved.key, "note"])
    form = browser.get(address, {"part": "B1"}).content.decode()
    assert re.search(r'value="B1"[^>]* checked', form)
    picture = io.BytesIO()
    Image.new("RGB", (8, 8)).save(picture, "PNG")
    sent = SimpleUploadedFile("bed.png", picture.getvalue())
    kept = browser.post(address, {"part": "B1", "words": "green", "photo": sent})
    assert kept.status_code == 302
    assert trials_due(trial, timezone.now()) == []
    assert trials_due(trial, timezone.now() + timedelta(days=7.1))


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
