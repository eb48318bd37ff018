"""A siphon tried on its bench: what is asked by slider and by typing, and built in one press."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.plan import Plan
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of

ASK = {
    "siphon": "S1",
    "size": "1 in",
    "fall": "0.44",
    "slid": "0.44",
    "exact": "0.44",
    "elbows": "2",
    "typed": "440",
    "told": "440",
}


def _tried(browser: Client, saved: SavedPlan, **asked: Any) -> str:
    address = reverse("offers", args=[saved.key, "variant"])
    answer = browser.get(address, {**ASK, **asked}, headers={"HX-Request": "true"})
    assert answer.status_code == 200
    return answer.content.decode()


def _plan(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    assert saved.head is not None
    return plan_of(saved.head)


def test_slider_and_box_ask_for_the_same(browser: Client, saved: SavedPlan) -> None:
    """Moved, the slider counts; typed over, the box does, in any unit, and the slider follows."""
    assert "This is how it is now." in _tried(browser, saved)
    moved = _tried(browser, saved, fall="0.5")
    typed = _tried(browser, saved, typed="50 cm")
    for page in (moved, typed):
        assert "stop up to <b>1,6" in page
        assert "1 in|0.5000|2|0|" in page
    assert 'id="variant-fall"' not in moved  # a finger may still be on it
    assert 'id="variant-fall"' in typed
    assert "never starts" in _tried(browser, saved, size="1 1/2 in")


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({"typed": "deep"}, "deep"),
        ({"fall": "nan"}, "no number"),
        ({"fall": "0.001"}, "centimetres"),
        ({"exact": "inf"}, "no number"),
        ({"typed": "-4 in"}, "centimetres"),
        ({"fall": "low"}, "slider"),
        ({"elbows": "-1"}, "counted"),
        ({"elbows": "77"}, "elbows"),
        ({"size": "9 in"}, "9 in"),
        ({"siphon": "X9"}, "no longer"),
        ({"typed": "4 m"}, "outside"),
    ],
)
def test_what_cannot_be_is_told_beside_it(
    browser: Client, saved: SavedPlan, asked: dict[str, str], said: str
) -> None:
    """A sentence, no window, nothing to build."""
    page = _tried(browser, saved, **asked)
    assert said in page
    assert "Build it so" not in page


def test_a_fall_between_the_steps_of_the_slider_stays(browser: Client, saved: SavedPlan) -> None:
    """To the last digit, while another box is changed; the slider stands on its nearest step."""
    between = {"typed": "443.7", "told": "443.7", "exact": "0.4437", "elbows": "1"}
    page = _tried(browser, saved, **between)
    assert "1 in|0.4437|1|0|" in page
    assert 'name="slid" value="0.44"' in page
    assert "1 in|0.4600|1|0|" in _tried(browser, saved, **between, fall="0.46")


def test_it_is_built_in_one_press(browser: Client, saved: SavedPlan) -> None:
    """Bell, tube and tail at once, told in words; what no longer stands is refused."""
    address = reverse("take", args=[saved.key, "variant"])
    data = {"base": 1, "part": "site", "siphon": "S1", "built": "1 1/4 in|0.5000|1|1|"}
    page = browser.post(address, data, headers={"HX-Request": "true"}).content.decode()
    assert "built of 1 1/4 in, tail falls 500 mm, 1 elbow in its tail, with an air tube" in page
    plan = _plan(saved)
    tail = plan.run_from("S1.tail")
    assert tail is not None
    assert tail.bore.nominal == "1 1/4 in"  # type: ignore[union-attr]
    assert plan.siphons[0].bell_bore.nominal == "3 in"  # type: ignore[union-attr]
    for text in ("", "1 in|x|2|0|", "a|b", "9 in|0.4|2|0|"):
        refused = browser.post(
            address, {**data, "base": 2, "built": text}, headers={"HX-Request": "true"}
        )
        assert refused.status_code == 409
        assert _plan(saved).siphons == plan.siphons
