"""Letters that no database keeps, sent to every page that takes any: none of them breaks."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys_web.plans.models import OwnPump, SavedPlan

NUL = "a\x00b"


def test_a_pump_is_not_kept_under_them(browser: Client) -> None:
    """A sentence stands beside the name, what was typed is kept."""
    typed = {"name": NUL, "max_flow": "1000 L/h", "max_head": "2 m", "power": "20 W"}
    response = browser.post(reverse("own_pumps"), typed)
    page = response.content.decode()
    assert "cannot be kept" in page
    assert "1000 L/h" in page
    assert not OwnPump.objects.exists()


@pytest.mark.parametrize(
    ("name", "asked"),
    [
        ("bench", {"hours": f"96{NUL}", "cut": NUL, "lasts": NUL, "event": NUL}),
        ("bench", {"hours": "96", "cut": "", "lasts": NUL, "event": "", "step": NUL}),
        ("compare", {"one": f"{NUL}/1", "two": f"1{NUL}"}),
        ("inspector", {"part": NUL}),
        ("plan", {"part": NUL, "bench": NUL}),
        ("history", {"page": NUL}),
        ("play", {"trial": NUL, "hours": NUL}),
    ],
)
def test_no_page_breaks_when_asked_with_them(
    browser: Client, saved: SavedPlan, name: str, asked: dict[str, Any]
) -> None:
    """It answers, or says what it does not know."""
    more = ["hours"] if name == "bench" else []
    address = reverse(name, args=[saved.key, *more])
    assert browser.get(address, asked, follow=True).status_code < 500
    assert browser.post(address, asked, follow=True).status_code < 500
    assert browser.get(reverse("plan", args=[saved.key])).status_code == 200


@pytest.mark.parametrize("name", ["edit", "undo", "go_to", "take"])
def test_no_change_is_made_of_them(browser: Client, saved: SavedPlan, name: str) -> None:
    """Whatever is changed, by whichever way."""
    more = ["change"] if name == "take" else []
    posted = {
        "base": NUL,
        "part": NUL,
        "path": NUL,
        "text": NUL,
        "number": NUL,
        "verb": NUL,
        "target": NUL,
        "kind": NUL,
        "end": NUL,
        "steps": NUL,
    }
    for verb in (NUL, "add", "connect", "remove", "raise"):
        response = browser.post(
            reverse(name, args=[saved.key, *more]),
            {**posted, "verb": verb, "base": "1"},
            headers={"HX-Request": "true"},
        )
        assert response.status_code < 500
    saved.refresh_from_db()
    assert saved.head is not None
    assert saved.head.number == 1
