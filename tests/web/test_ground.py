"""The page of the ground plan: moved, typed, led, and refused."""

import html
import re
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.ground import laid_routes
from bathys.plan import Plan, load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE

HTMX = {"HX-Request": "true"}


@pytest.fixture
def split_flow(owner: Any) -> SavedPlan:
    """A plan with joints and a sump that is dug in."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    return create_plan(owner, plan, "made for a test")


def _now(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    return plan_of(saved.current)


def _do(browser: Client, saved: SavedPlan, verb: str, **more: str) -> Any:
    saved.refresh_from_db()
    posted = {"verb": verb, "base": str(saved.current.number), **more}
    return browser.post(reverse("ground", args=[saved.key]), posted, headers=HTMX)


def test_a_vessel_is_dragged_typed_and_put_back(browser: Client, split_flow: SavedPlan) -> None:
    """Dragged in metres, typed in any unit; undone step by step."""
    page = _do(browser, split_flow, "place", part="S1", at="3.25,4.5").content.decode()
    spot = _now(split_flow).vessel("S1").spot
    assert spot is not None
    assert (spot.x, spot.y) == (3.25, 4.5)
    assert "Sump placed at 3.25 m, 4.50 m" in page
    _do(browser, split_flow, "place", part="S1", x="10 ft", y="420 cm", turned="450")
    spot = _now(split_flow).vessel("S1").spot
    assert spot is not None
    assert (spot.x, spot.y, spot.turned) == (pytest.approx(3.048), 4.2, 90.0)
    _do(browser, split_flow, "undo")
    _do(browser, split_flow, "undo")
    assert _now(split_flow).vessel("S1").spot is None
    _do(browser, split_flow, "redo")
    assert _now(split_flow).vessel("S1").spot is not None


def test_what_cannot_be_read_stays_in_its_box(browser: Client, split_flow: SavedPlan) -> None:
    """With a sentence beside it; nothing is changed."""
    answer = _do(browser, split_flow, "place", part="S1", x="<b>left</b>", y="3 m", turned="0")
    page = answer.content.decode()
    assert answer.status_code == 422
    assert "“&lt;b&gt;left&lt;/b&gt;” cannot be read" in page
    assert 'value="&lt;b&gt;left&lt;/b&gt;"' in page
    for verb, more in (
        ("place", {"part": "S1", "at": "nan,1"}),
        ("place", {"part": "S1", "at": "1"}),
        ("place", {"part": "S1", "at": "1e9,1"}),
        ("place", {"part": "P1", "at": "1,1"}),
        ("route", {"part": "R1", "corners": "1 m"}),
        ("route", {"part": "R1", "corners": "1 m, wide"}),
        ("site", {"length": "0", "width": "3 m"}),
        ("site", {"length": "", "width": "3 m"}),
        ("mark", {"kind": "pond"}),
        ("drop_mark", {"part": "M9"}),
        ("fly", {"part": "S1"}),
    ):
        answer = _do(browser, split_flow, verb, **more)
        assert answer.status_code == 422, (verb, more)
        assert 'role="alert"' in answer.content.decode(), (verb, more)
    assert _now(split_flow).ground is None
    assert split_flow.current.number == 1
    stale = {"verb": "place", "base": "7", "part": "S1", "at": "1,1"}
    answer = browser.post(reverse("ground", args=[split_flow.key]), stale, headers=HTMX)
    assert answer.status_code == 409
    assert "changed elsewhere" in answer.content.decode()


def test_lengths_follow_and_a_route_is_typed(browser: Client, split_flow: SavedPlan) -> None:
    """All lengths from the ground at once; a corner is typed; one length is kept as typed."""
    _do(browser, split_flow, "follow_all")
    for route in laid_routes(_now(split_flow)):
        assert route.run.level_length == pytest.approx(route.length, abs=5.1e-4)
    page = _do(
        browser, split_flow, "route", part="R10", corners="2 m, 0.3 m\n1.5 m; 300 mm"
    ).content.decode()
    route = _now(split_flow).part("R10").route
    assert [(c.x, c.y) for c in route.corners] == [(2.0, 0.3), (1.5, 0.3)]
    assert 'data-corner="1"' in page
    assert "2.000 m, 0.300 m" in html.unescape(page)
    _do(browser, split_flow, "keep", part="R10")
    before = _now(split_flow).part("R10").level_length
    _do(browser, split_flow, "place", part="F1", at="9,9")
    assert _now(split_flow).part("R10").level_length == before
    _do(browser, split_flow, "straight", part="R10")
    assert _now(split_flow).part("R10").route.corners is None


def test_the_site_and_what_stands_on_it(browser: Client, split_flow: SavedPlan) -> None:
    """A site that is too small, and a door that a vessel stands in, are findings; the door is moved
    and taken away."""
    _do(browser, split_flow, "place", part="S1", at="1.6,3.55")
    page = _do(browser, split_flow, "site", length="5 m", width="20 ft").content.decode()
    ground = _now(split_flow).ground
    assert ground is not None
    assert ground.width == pytest.approx(6.096)
    assert "beyond the edge of the site" in page
    page = _do(browser, split_flow, "mark", kind="door").content.decode()
    assert "Put it down" not in page  # the door is picked
    _do(browser, split_flow, "move_mark", part="M1", at="1.55,1.55")
    page = _do(
        browser,
        split_flow,
        "size_mark",
        part="M1",
        x="1.55 m",
        y="1.55 m",
        length="1 m",
        width="1 m",
    ).content.decode()
    assert "in the door" in page
    page = _do(browser, split_flow, "drop_mark", part="M1").content.decode()
    assert "in the door" not in page
    ground = _now(split_flow).ground
    assert ground is not None
    assert ground.marks == ()


def test_the_ground_plan_is_looked_at(browser: Client, split_flow: SavedPlan) -> None:
    """Every vessel, run and joint can be picked; as a file it stands by itself; a better place for
    the sump is one press."""
    address = reverse("ground", args=[split_flow.key])
    page = browser.get(address).content.decode()
    plan = plan_of(split_flow.current)
    for part in (*plan.vessels, *plan.runs, *plan.junctions):
        assert browser.get(address, {"part": part.id}).status_code == 200
        assert f'"{part.id}"' in page
    assert browser.get(address, {"part": "<script>"}).status_code == 200
    browser.post(reverse("switch_units"), {"units": "us", "next": "/"})
    assert "Each square is 2 ft" in browser.get(address).content.decode()
    file = browser.get(reverse("ground_picture", args=[split_flow.key]))
    assert file["Content-Type"] == "image/svg+xml"
    assert file.content.count(b"<polygon") >= len(plan.vessels) + 1
    assert re.search(rb"var\(--|http(?!://www\.w3\.org/2000/svg)", file.content) is None
    better = browser.get(reverse("better_place", args=[split_flow.key]), headers=HTMX)
    at = re.search(r'name="at" value="([^"]+)"', better.content.decode())
    assert at is not None
    _do(browser, split_flow, "place", part="S1", at=at[1])
    assert _now(split_flow).vessel("S1").spot is not None


def test_the_site_is_outlined_and_a_pipe_led_over_a_door(
    browser: Client, split_flow: SavedPlan
) -> None:
    """Typed and dragged; an outline that crosses itself is told beside its box. Heights of corners
    are kept when one of them is dragged."""
    typed = "0 m, 0 m\n9 m, 0 m\n9 m, 6 m\n0 m, 8 m"
    assert _do(browser, split_flow, "outline", part="", outline=typed).status_code == 200
    ground = _now(split_flow).ground
    assert ground is not None
    assert [(c.x, c.y) for c in ground.outline] == [(0, 0), (9, 0), (9, 6), (0, 8)]
    crossed = "0 m, 0 m\n9 m, 9 m\n9 m, 0 m\n0 m, 9 m"
    wrong = _do(browser, split_flow, "outline", part="", outline=crossed)
    assert wrong.status_code == 422
    page = html.unescape(wrong.content.decode())
    assert "not cross itself" in page
    assert crossed in page
    _do(browser, split_flow, "outline", part="", at="0,0,8,0,8,5")
    assert len(_now(split_flow).ground.outline) == 3  # type: ignore[union-attr]
    _do(browser, split_flow, "route", part="R2", corners="2 m, 3 m, 2.2 m\n4 m, 3 m")
    route = _now(split_flow).part("R2").route
    assert [c.height for c in route.corners] == [2.2, None]
    page = _do(browser, split_flow, "route", part="R2", at="2,3.5,4,3.5", heights="2.2,").content
    assert [c.height for c in _now(split_flow).part("R2").route.corners] == [2.2, None]
    assert "2.000 m, 3.500 m, 2.200 m" in page.decode()
    told = _do(browser, split_flow, "route", part="R2", corners="2 m, 3 m, 4 m, 5 m")
    assert "a third is its height" in told.content.decode()


def _rows(page: str) -> list[str]:
    return re.findall(r"<tr[^>]*><td><a [^>]*hx-get.*?</tr>", page, re.DOTALL)


def test_rows_that_are_kept_over_a_drag_are_those_of_the_page_afresh(
    browser: Client, split_flow: SavedPlan, owner: Any
) -> None:
    """Lengths and picks are those of this plan and this revision, in the reader's units; a plan of
    the same names has its own addresses."""
    address = reverse("ground", args=[split_flow.key])
    for at in ("2,2", "5,4", "2,2"):
        dragged = _do(browser, split_flow, "place", part="T1", at=at).content.decode()
        afresh = browser.get(address, {"part": "T1"}).content.decode()
        assert _rows(dragged) == _rows(afresh)
        assert len(_rows(dragged)) == len(_now(split_flow).runs)
        assert '<option value="T1" selected>' in dragged
    other = create_plan(owner, _now(split_flow), "made for a test")
    theirs = browser.get(reverse("ground", args=[other.key])).content.decode()
    assert str(split_flow.key) not in theirs
    assert "selected>" not in theirs.partition('id="ground-part"')[2].partition("</select>")[0]
    odd = _do(browser, split_flow, "place", part="J1", at="4,4").content.decode()
    assert '<option value="J1" selected>' in odd
