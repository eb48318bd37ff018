"""Following a plan from its page: any hours, something failing, played on the side view."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan
from tests.conftest import EXAMPLE
from tests.web.pages import offer_after

HTMX = {"HX-Request": "true"}

pytestmark = pytest.mark.django_db


@pytest.fixture
def pair(owner: Any) -> SavedPlan:
    """The owner's stacked pair."""
    return create_plan(owner, load_plan(EXAMPLE.read_bytes()), "made for a test")


def _page(browser: Client, saved: SavedPlan, **form: str) -> str:
    answer = browser.post(reverse("bench", args=[saved.key, "hours"]), form, headers=HTMX)
    assert answer.status_code == 200
    words: str = answer.content.decode()
    return words


def test_a_form_is_followed(browser: Client, pair: SavedPlan) -> None:
    """Three hours with a clogged tail: told, drawn, and what was typed kept."""
    words = _page(browser, pair, hours="3", cut="", lasts="", event="block:R2")
    assert "overflows" in words
    assert "Level of every vessel through time" in words
    assert 'value="3"' in words
    assert '<option value="block:R2" selected>' in words


@pytest.mark.parametrize(
    ("form", "told"),
    [
        ({"hours": "soon"}, "“soon” is no time"),
        ({"hours": "9000"}, "744 hours"),
        ({"hours": "6", "cut": "noonish"}, "“noonish” is no time"),
        ({"hours": "6", "cut": "2:00", "lasts": "long"}, "“long” is no time"),
        ({"hours": "2", "event": "block:R99"}, "is not understood"),
    ],
)
def test_what_cannot_be_followed_is_told_beside_it(
    browser: Client, pair: SavedPlan, form: dict[str, str], told: str
) -> None:
    """And what was typed stands where it stood."""
    words = _page(browser, pair, **form)
    assert told in words
    assert f'value="{form["hours"]}"' in words


def test_what_is_done_while_it_plays_leaves_the_past_alone(
    browser: Client, pair: SavedPlan
) -> None:
    """The plug is pulled an hour in and the tail blocked later: until then the levels are those of
    the undisturbed run, which stands beside them; what cannot be done is told."""
    address = reverse("play", args=[pair.key])
    calm = browser.post(address, {"hours": "4"}).json()
    done = {"hours": "4", "step": ["plug:30min@3600s", "block:R2@2:00"]}
    found = browser.post(address, done).json()
    assert "calm" not in calm
    assert found["calm"]["levels"] == calm["levels"]
    assert found["dark"] == [[3600.0, 5400.0]]
    until = next(i for i, t in enumerate(found["times"]) if t >= 3590.0)
    before = [round(z, 3) for z in found["levels"]["B1"][:until]]
    assert before == [round(z, 3) for z in calm["levels"]["B1"][:until]]
    assert found["levels"]["B1"] != calm["levels"]["B1"]
    assert any("overflows" in words for _, words in found["events"])
    told = browser.post(address, {"hours": "4", "step": "block:X9@1:00"}).json()
    assert "not understood" in told["refusal"]
    trial = browser.post(address, {"trial": "0"}).json()
    assert trial["times"][0] == 0.0
    assert trial["dark"][0][0] == 0.0
    assert "no such" in browser.post(address, {"trial": "77"}).json()["refusal"]


def test_findings_through_time_and_their_remedy(browser: Client, pair: SavedPlan) -> None:
    """The pump in the fish tank: told unasked, tried when asked, fixed by one press."""
    dynamic = browser.post(
        reverse("offers", args=[pair.key, "dynamic"]), headers=HTMX
    ).content.decode()
    assert "empties Fish tank" in dynamic
    where = {"rule": "U9", "place": "P1"}
    tried = browser.post(
        reverse("offers", args=[pair.key, "dynamic_remedies"]), where, headers=HTMX
    ).content.decode()
    assert "hang Pump" in tried
    browser.post(
        reverse("take", args=[pair.key, "offer"]),
        {"offer": offer_after(tried, "hang Pump"), "base": pair.head.number, "part": "P1"},
        headers=HTMX,
    )
    again = browser.post(
        reverse("offers", args=[pair.key, "dynamic"]), headers=HTMX
    ).content.decode()
    assert "empties Fish tank" not in again
    levels = reverse("bench", args=[pair.key, "levels"])
    whole = browser.get(levels, headers=HTMX).content.decode()
    for words in (
        "What Fish tank must hold",
        "Power cut just after",
        "All falls and lifts",
        "If something fails",
        "more failure",
    ):
        assert words in whole
