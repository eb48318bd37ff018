"""What is done to a part by hand: each act, what the history says of it, and what cannot be."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.parts.practice import PRACTICES
from bathys.parts.pumps import sample_pumps
from bathys.plan import Plan, load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.django_db

HTMX = {"HX-Request": "true"}


@pytest.fixture
def split(owner: Any) -> SavedPlan:
    """A plan with most kinds of parts."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    return create_plan(owner, plan, "made for a test")


def _now(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    return plan_of(saved.current)


def _act(browser: Client, saved: SavedPlan, verb: str, target: str, **more: str) -> Any:
    saved.refresh_from_db()
    told = {"verb": verb, "target": target, "part": target, "base": str(saved.current.number)}
    return browser.post(reverse("take", args=[saved.key, "change"]), told | more, headers=HTMX)


@pytest.mark.counted
@pytest.mark.parametrize(
    ("verb", "target", "more", "says"),
    [
        ("raise", "B1", {"steps": "3"}, "raised 30 mm"),
        ("raise", "T1", {"steps": "-2"}, "lowered 20 mm"),
        ("move", "B1", {"steps": "1"}, "moved to the right"),
        ("move", "B1", {"steps": "-4"}, "moved to the left"),
        ("duplicate", "B1", {}, "duplicated as"),
        ("remove", "G1", {}, "deleted"),
        ("container", "T1", {"container": "round-1000"}, "Round tank"),
        ("pump", "P1", {"pump": sample_pumps()[3].name}, "replaced by"),
        ("connect", "B1", {"end": "S1"}, "connected from"),
        ("add", "", {"kind": "grow_bed", "feed": "R5", "drain": "S1"}, "added, fed from"),
        ("practice", "tail_joints", {"way": "dry"}, ""),
    ],
)
def test_an_act_makes_one_revision_that_says_what_was_done(
    browser: Client, split: SavedPlan, verb: str, target: str, more: dict[str, str], says: str
) -> None:
    before = _now(split)
    answer = _act(browser, split, verb, target, **more)
    assert answer.status_code == 200
    split.refresh_from_db()
    assert split.current.number == 2
    assert says in split.current.what_changed
    assert _now(split) != before


def test_a_bed_raised_and_lowered_again_stands_where_it_stood(
    browser: Client, split: SavedPlan
) -> None:
    """In steps of a centimetre; half an inch where the reader has inches."""
    floor = _now(split).vessel("B1").floor_height
    _act(browser, split, "raise", "B1", steps="5")
    assert _now(split).vessel("B1").floor_height == pytest.approx(floor + 0.05)
    _act(browser, split, "raise", "B1", steps="-5")
    assert _now(split).vessel("B1").floor_height == pytest.approx(floor)
    browser.post(reverse("switch_units"), {"units": "us"})
    _act(browser, split, "raise", "B1", steps="2")
    assert _now(split).vessel("B1").floor_height - floor == pytest.approx(0.0254)


@pytest.mark.counted
@pytest.mark.parametrize(
    ("verb", "target", "more"),
    [
        ("raise", "B1", {"steps": "far"}),
        ("raise", "B1", {"steps": "0"}),
        ("raise", "B1", {"steps": "501"}),
        ("raise", "B1", {}),
        ("raise", "T9", {"steps": "1"}),
        ("move", "R1", {"steps": "1"}),
        ("pump", "P1", {"pump": "no such pump"}),
        ("pump", "B1", {"pump": sample_pumps()[0].name}),
        ("own", "P1", {"own": "none"}),
        ("container", "T1", {"container": "no-such"}),
        ("container", "R1", {"container": "round-1000"}),
        ("connect", "B1", {"end": "nowhere"}),
        ("duplicate", "nothing", {}),
        ("remove", "nothing", {}),
        ("practice", "no_such_practice", {"way": "frugal"}),
        ("practice", next(iter(PRACTICES)), {"way": "no_such_way"}),
        ("turn_to_gold", "B1", {}),
        ("", "", {}),
    ],
)
def test_what_cannot_be_done_is_told_and_nothing_is_changed(
    browser: Client, split: SavedPlan, verb: str, target: str, more: dict[str, str]
) -> None:
    before = _now(split)
    answer = _act(browser, split, verb, target, **more)
    assert answer.status_code in (200, 404, 409, 422)
    assert _now(split) == before
    assert split.current.number == 1


def test_a_strangers_part_is_out_of_reach(split: SavedPlan, stranger: Any) -> None:
    client = Client()
    client.force_login(stranger)
    assert _act(client, split, "remove", "G1").status_code == 404
    assert _now(split).vessel("G1")
