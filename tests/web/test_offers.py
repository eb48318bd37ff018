"""Changes the engine works out: listed with their effect, and made in one press."""

import json
import re
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core import signing
from django.test import Client
from django.urls import reverse

from bathys.edits import Edit, apply_edits
from bathys.evaluation import evaluate
from bathys.pipeline import assess, remedies_of
from bathys.plan import load_plan, plan_from_data
from bathys.quality import solids_of
from bathys.wording.remedies import remedy_words
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.benches import benches_of
from bathys_web.plans.models import OwnPump, SavedPlan
from bathys_web.plans.offers import LISTS
from bathys_web.plans.sealed import seal_for
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of, unlike_parts
from tests.web.pages import offer_after

pytestmark = pytest.mark.django_db
EXAMPLES = sorted(p.stem for p in EXAMPLE.parent.glob("*.json"))
HTMX = {"HX-Request": "true"}
ALONE = ("bench-top", "decoupled-pair", "fish-and-leaves", "split-flow", "two-pump-timed")
"""Examples that have each kind of bench and offer: there each is a page of its own too."""


@pytest.fixture
def twin(owner: Any) -> SavedPlan:
    """The owner's twin sumps, with their bypass shut so that there is something to say."""
    document = lists_of(EXAMPLE.parent / "twin-sumps.json")
    document["pumps"][0]["dial"] = 0.7
    return create_plan(owner, plan_from_data(document), "made for a test")


@pytest.mark.parametrize("name", EXAMPLES)
def test_every_example_has_a_page_and_every_list(browser: Client, owner: Any, name: str) -> None:
    """Imported, drawn, and asked everything; with and without scripts."""
    plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    page = browser.get(reverse("plan", args=[saved.key]))
    words = page.content.decode()
    assert page.status_code == 200
    assert not re.search(r"\bnan\b", words, re.IGNORECASE)
    for part in unlike_parts(plan):
        inspector = reverse("inspector", args=[saved.key]) + f"?part={part}"
        assert part in browser.get(inspector, headers=HTMX).content.decode()
    for kind in LISTS:
        address = reverse("offers", args=[saved.key, kind]) + f"?run={plan.runs[0].id}"
        assert browser.get(address, headers=HTMX).status_code == 200
        if name in ALONE:
            assert "Back to" in browser.get(address).content.decode()
    for bench in benches_of(plan):
        address = reverse("bench", args=[saved.key, bench.key])
        whole = browser.get(address, headers=HTMX).content.decode()
        assert bench.asks in whole
        assert not re.search(r"\bnan\b", whole, re.IGNORECASE)
        if name in ALONE:
            assert "Back to" in browser.get(address).content.decode()


def test_a_remedy_is_one_press(browser: Client, twin: SavedPlan) -> None:
    """The revision that follows is the remedy's plan, told in words."""
    found = assess(plan_of(twin.head))
    finding, remedy = next(
        (f, r) for f in found.findings for r in remedies_of(found, f) if f.offers
    )
    listed = browser.get(
        reverse("offers", args=[twin.key, "remedies"]),
        {"rule": finding.rule.id, "place": finding.place},
        headers=HTMX,
    ).content.decode()
    assert "Do it" in listed
    asked = {
        "offer": offer_after(listed, remedy_words(remedy, found.evaluation.plan, "metric")),
        "base": 1,
    }
    done = browser.post(reverse("take", args=[twin.key, "offer"]), asked, headers=HTMX)
    assert done.status_code == 200
    twin.refresh_from_db()
    assert twin.head is not None
    assert twin.head.number == 2
    again = browser.post(reverse("take", args=[twin.key, "offer"]), asked, headers=HTMX)
    assert again.status_code == 409
    assert "changed elsewhere" in again.content.decode()


@pytest.mark.parametrize(
    ("kind", "asked", "words", "changed"),
    [
        ("valves", {}, "<h3>Proportional", "runs"),
        ("gains", {}, "<tbody>", None),
        ("pumps", {}, "Low watt 16000", "pumps"),
        ("bores", {"run": "R1"}, "<td>3 in", "runs"),
    ],
)
def test_offers_are_taken(
    browser: Client,
    twin: SavedPlan,
    kind: str,
    asked: dict[str, str],
    words: str,
    changed: str | None,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """Each kind, without scripts: a redirect to the changed plan, and undo. What was worked out for
    the list is not worked out again to take it."""
    before = plan_of(twin.head)
    listed = browser.get(reverse("offers", args=[twin.key, kind]), asked).content.decode()
    for search in ("balance_valves", "gains", "bore_options", "search_pumps"):
        monkeypatch.setattr(f"bathys_web.plans.offers.sizes.{search}", _never)
    address = reverse("take", args=[twin.key, "offer"])
    offer = offer_after(listed, words)
    assert browser.get(reverse("preview", args=[twin.key, "offer"]), {"offer": offer}).json()[
        "words"
    ]
    assert browser.post(address, {"offer": offer, "base": 1}).status_code == 302
    twin.refresh_from_db()
    after = plan_of(twin.head)
    assert after != before
    if changed is not None:
        assert getattr(after, changed) != getattr(before, changed)
    browser.post(reverse("undo", args=[twin.key]), {"base": 2})
    twin.refresh_from_db()
    assert plan_of(twin.head) == before


def _never(*_: object, **__: object) -> None:
    raise AssertionError("it was searched again")


def test_an_offer_that_no_longer_stands_is_told(browser: Client, twin: SavedPlan) -> None:
    """One of another plan, one that was written by hand or changed on the way, or none: nothing
    changes, and a sentence says so."""
    plan = plan_of(twin.head)
    edits = [Edit("runs.R1.fouling", "neglected")]
    mine = seal_for(plan)(edits, "a film")
    body, stamp, mark = mine.rsplit(":", 2)
    renamed = apply_edits(plan, [Edit("name", "Another plan")])
    address = reverse("take", args=[twin.key, "offer"])
    for offer in (
        "",
        "x",
        "a:b:c",
        seal_for(renamed)(edits, "a film"),
        f"{body[:-2]}AA:{stamp}:{mark}",
        signing.dumps({"plan": "", "edits": [], "words": ""}, salt="another"),
    ):
        page = browser.post(address, {"offer": offer, "base": 1}, headers=HTMX)
        assert "no longer stands" in page.content.decode()
    twin.refresh_from_db()
    assert twin.head is not None
    assert twin.head.number == 1
    assert browser.post(address, {"offer": mine, "base": 1}, headers=HTMX).status_code == 200


def test_unknown_kinds_are_missing_pages(browser: Client, twin: SavedPlan) -> None:
    """Neither listed nor taken."""
    for name in ("offers", "take"):
        method = browser.get if name == "offers" else browser.post
        assert method(reverse(name, args=[twin.key, "anything"])).status_code == 404


def test_own_pumps_are_kept_tried_and_dropped(browser: Client, twin: SavedPlan) -> None:
    """Typed in any unit; a bad label is told field by field, with what was typed kept."""
    address = reverse("own_pumps")
    label = {"name": "Shop pump", "max_flow": "3600 gph", "max_head": "18 ft", "power": "60 W"}
    bad = browser.post(address, {**label, "max_flow": "fast", "power": "0"})
    words = bad.content.decode()
    assert bad.status_code == 422
    assert "cannot be read" in words
    assert "not the size of a pump" in words
    assert 'value="fast"' in words
    assert browser.post(address, label).status_code == 302
    kept = OwnPump.objects.get()
    assert kept.max_head == pytest.approx(18 * 0.3048)
    listed = browser.get(reverse("offers", args=[twin.key, "pumps"]), headers=HTMX)
    assert "Shop pump (yours)" in listed.content.decode()
    stranger = Client()
    stranger.force_login(get_user_model().objects.create_user("other"))
    drop = reverse("delete_own_pump", args=[kept.pk])
    assert stranger.post(drop).status_code == 404
    assert browser.post(drop).status_code == 302
    assert not OwnPump.objects.exists()


def test_a_pump_of_ones_own_is_known_by_its_curve(browser: Client, twin: SavedPlan) -> None:
    """Read off a picture, kept without label figures, and put into a plan as points; what is no
    curve is told beside the box with what was typed."""
    read = reverse("read_curve")
    marks = {"flow_first": "0", "flow_second": "2000 L/h", "head_first": "0", "head_second": "3 m"}
    axes = "60,340 540,340 60,340 60,60"
    few = browser.post(read, {**marks, "pressed": axes, "points": "<b>"})
    assert few.status_code == 422
    assert "at least two points" in few.content.decode()
    assert "&lt;b&gt;" in few.content.decode()
    pressed = f"{axes} 60,60 300,130 540,340"
    words = browser.post(read, {**marks, "pressed": pressed}).content.decode()
    points = words.partition('rows="4">')[2].partition("</textarea>")[0]
    assert points.splitlines()[0] == "0 L/h at 3 m"
    assert "1000 L/h at 2.25 m" in points
    address = reverse("own_pumps")
    typed = {"name": "By curve", "power": "30 W", "max_flow": "", "max_head": ""}
    rising = browser.post(address, {**typed, "points": "0 L/h at 1 m\n800 L/h at 2 m"})
    assert rising.status_code == 422
    assert "never rises with flow" in rising.content.decode()
    assert "800 L/h at 2 m</textarea>" in rising.content.decode()
    assert browser.post(address, {**typed, "points": points}).status_code == 302
    own = OwnPump.objects.get()
    assert own.max_head == pytest.approx(3.0)
    assert own.max_flow == pytest.approx(2000.0 / 3.6e6)
    words_of = {"base": 1, "part": "P1", "verb": "pump", "target": "P1", "pump": "By curve"}
    browser.post(reverse("take", args=[twin.key, "change"]), words_of, headers=HTMX)
    twin.refresh_from_db()
    curve = plan_of(twin.current).pumps[0].curve
    assert curve.kind == "points"
    assert curve.most_flow == pytest.approx(2000.0 / 3.6e6)


def test_a_plan_is_built_in_stages_and_tried_with_more(browser: Client, twin: SavedPlan) -> None:
    """Told how at first; a bed typed into the second stage has a row of its own; how many more is
    answered with what stops the next, and what is no vessel is told so."""
    bench = reverse("bench", args=[twin.key, "stages"])
    assert "All of it is built at once" in browser.get(bench).content.decode()
    edit = {"base": 1, "part": "B2", "path": "vessels.B2.stage", "text": "2"}
    assert browser.post(reverse("edit", args=[twin.key]), edit, headers=HTMX).status_code == 200
    page = browser.get(bench).content.decode()
    assert page.count('data-head="Pumped"') == 2
    assert "What stays keeps its sizes" in page
    more = reverse("offers", args=[twin.key, "more"])
    assert "more like" in browser.get(more, {"vessel": "B1"}).content.decode()
    assert "Choose a vessel" in browser.get(more, {"vessel": "<b>"}).content.decode()


def test_switched_parts_bring_their_own_boxes(browser: Client, twin: SavedPlan) -> None:
    """A timer on the pump, a gate for a ball, a spray bar at an end; each box can be typed in."""
    steps = [
        ("pumps.P1.switch.kind", "timer"),
        ("pumps.P1.switch.on", "20 min"),
        ("pumps.P1.switch.kind", "float"),
        ("pumps.P1.switch.kind", "none"),
        ("runs.R4.valve.kind", "gate"),
        ("runs.R4.valve.opening", "60 %"),
        ("runs.R9.ends_in.kind", "spray"),
        ("runs.R9.ends_in.holes", "24"),
        ("runs.R1.fittings.reducer", "1"),
        ("runs.R1.fittings.reducer.other_bore", "4 in"),
        ("outlets.O1.vented", "no"),
        ("pumps.P1.dial", "85"),
        ("runs.R4.wanted_flow", "500 gph"),
        ("brief.schools", "tank headroom"),
    ]
    for number, (path, text) in enumerate(steps, start=1):
        posted = {
            "path": path,
            "part": path.split(".")[1],
            "base": number,
            "text": text.split() if "schools" in path else text,
            "standard": "ASTM D1785 Schedule 40",
        }
        page = browser.post(reverse("edit", args=[twin.key]), posted, headers=HTMX)
        assert page.status_code == 200, (path, page.content.decode()[:600])
    twin.refresh_from_db()
    plan = plan_of(twin.head)
    assert plan.part("R4").valve.opening == pytest.approx(0.6)
    assert plan.part("R9").ends_in.holes == 24
    assert plan.part("R1").fittings[-1].other_bore.nominal == "4 in"
    assert plan.part("O1").vented is False
    assert plan.pumps[0].dial == pytest.approx(0.85)


def test_a_siphon_is_built_from_its_bench(browser: Client, saved: SavedPlan) -> None:
    """Its window with its inflow on it; the first choice, built, still cycles and is named."""
    address = reverse("bench", args=[saved.key, "siphon"])
    words = browser.get(address, {"siphon": "S1"}, headers=HTMX).content.decode()
    assert "window-now" in words
    assert "Build it" in words
    before = saved.head.number
    browser.post(
        reverse("take", args=[saved.key, "offer"]),
        {"offer": offer_after(words, "Other ways to build it"), "base": before, "part": "S1"},
        headers=HTMX,
    )
    saved.refresh_from_db()
    assert saved.head.number == before + 1
    assert assess(plan_of(saved.head)).evaluation.beds[0].cycle.verdict == "cycles"
    away = {"verb": "remove", "target": "R2", "base": before + 1, "part": "R2"}
    browser.post(reverse("take", args=[saved.key, "change"]), away, headers=HTMX)
    assert "needs a tail pipe" in browser.get(address, headers=HTMX).content.decode()


@pytest.mark.parametrize(
    ("posted", "told"),
    [
        ({"verb": "remove", "target": "Z9"}, "any more"),
        ({"verb": "raise", "target": "B1", "steps": "9999"}, "further than anything"),
        ({"verb": "raise", "target": "B1", "steps": "x"}, "no longer stands"),
        ({"verb": "add", "kind": "pump"}, "which vessel"),
        ({"verb": "connect", "target": "P1", "end": "T1"}, "already"),
        ({"verb": "melt", "target": "B1"}, "no longer stands"),
    ],
)
def test_a_change_that_cannot_be_is_told(
    browser: Client, saved: SavedPlan, posted: dict[str, str], told: str
) -> None:
    """In a sentence over the plan as it stands, which is not touched."""
    answer = browser.post(
        reverse("take", args=[saved.key, "change"]),
        {**posted, "base": saved.head.number, "part": "B1"},
        headers=HTMX,
    )
    assert told in answer.content.decode()
    saved.refresh_from_db()
    assert saved.head.number == 1


def test_a_cycle_is_told_as_the_beds_run_together(browser: Client, owner: Any) -> None:
    """Where following the plan brings out another than even feeding, the head of the page has it;
    where it does not, nothing there is touched."""
    for name, key, apart in (("linked-beds", "B3cycle", True), ("stacked-pair", "B1cycle", False)):
        plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
        saved = create_plan(owner, plan, "made for a test")
        page = browser.get(reverse("plan", args=[saved.key])).content.decode()
        assert f'id="value-{key}"' in page
        dynamic = browser.post(reverse("offers", args=[saved.key, "dynamic"]), headers=HTMX)
        told = dynamic.content.decode()
        assert (f'id="value-{key}" hx-swap-oob="true"' in told) == apart
        assert ("with all beds running (12 min 02 s if fed evenly)" in told) == apart


@pytest.mark.parametrize(("name", "grave"), [("bench-top", True), ("raft-line", False)])
def test_the_page_does_not_say_all_is_met_once_time_brought_something_out(
    browser: Client, owner: Any, name: str, grave: bool
) -> None:
    """The words under the heading change with it."""
    plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    address = reverse("plan", args=[saved.key])
    page = browser.get(address).content.decode()
    plans = browser.get(reverse("plans")).content.decode()
    assert "with their margins, at steady flow." in page
    assert _verdict(page) == "No problems so far"
    assert "No problems so far" in plans
    dynamic = browser.post(
        reverse("offers", args=[saved.key, "dynamic"]), headers=HTMX
    ).content.decode()
    told = "The points below show over time" if grave else "with their margins."
    verdict = "1 warning" if grave else "No problems"
    for now in (dynamic, browser.get(address).content.decode()):
        assert told in now
        assert _verdict(now) == verdict
    plans = browser.get(reverse("plans")).content.decode()
    assert verdict in plans
    assert "so far" not in plans


def _verdict(page: str) -> str:
    found = re.search(r'<a id="verdict"[^>]*>(.*?)</a>', page, re.DOTALL)
    assert found is not None
    return found[1].strip()


def test_a_settler_is_built_of_a_container_in_one_press(browser: Client, owner: Any) -> None:
    """Listed with what it catches, previewed, built without another search, and undone."""
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    listed = browser.get(reverse("offers", args=[saved.key, "settlers"])).content.decode()
    offer = offer_after(listed, "<td>Stock trough, 1.4 m")
    preview = browser.get(reverse("preview", args=[saved.key, "offer"]), {"offer": offer})
    assert preview.json()["words"]
    browser.post(reverse("take", args=[saved.key, "offer"]), {"offer": offer, "base": 1})
    saved.refresh_from_db()
    barrel = plan_of(saved.head).vessel("C1")
    assert barrel.shape.kind == "trough"
    assert barrel.settler is not None
    assert barrel.settler.kind == "radial"
    bench = browser.get(reverse("bench", args=[saved.key, "solids"]), headers=HTMX)
    assert "radial flow" in bench.content.decode()
    browser.post(reverse("undo", args=[saved.key]), {"base": 2})
    saved.refresh_from_db()
    assert plan_of(saved.head) == plan


def test_two_settlers_are_built_in_one_press_and_ones_own_container_is_offered(
    browser: Client, owner: Any
) -> None:
    """A size that cannot be read is told beside its box, and all that was typed stays."""
    plan = load_plan((EXAMPLE.parent / "faults/fast-settler.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    address = reverse("offers", args=[saved.key, "settlers"])
    wrong = browser.get(address, {"across": "40 cm", "tall": "<b>high</b>"}).content.decode()
    assert "&lt;b&gt;high&lt;/b&gt;” cannot be read" in wrong
    assert 'value="40 cm"' in wrong
    assert "Your container" not in wrong
    right = browser.get(address, {"across": "50 cm", "tall": "90 cm"}).content.decode()
    assert offer_after(right, "<td>Your container")
    lowest = browser.get(address, {"order": "height"}).content.decode()
    assert '<option value="height" selected>' in lowest
    assert lowest.index("Aquarium, 60 cm") < lowest.index("Crate 600 x 400, deep")
    tiny = browser.get(address, {"across": "10 cm", "tall": "10 cm"}).content.decode()
    assert "Your container does not do here" in tiny
    offer = offer_after(right, "<td>As it stands, and a second one")
    browser.post(reverse("take", args=[saved.key, "offer"]), {"offer": offer, "base": 1})
    saved.refresh_from_db()
    built = plan_of(saved.head)
    settlers = solids_of(evaluate(built)).settlers
    assert len(settlers) == 2
    assert sum(s.flow for s in settlers) == pytest.approx(
        solids_of(evaluate(plan)).settlers[0].flow, rel=0.05
    )


def test_a_filter_is_put_on_told_and_followed_day_by_day(browser: Client, owner: Any) -> None:
    """From the inspector: matting that is cleaned too seldom is a warning with its remedy, and
    with nobody cleaning its chamber runs over."""
    plan = load_plan((EXAMPLE.parent / "practice/swirl-court.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    for path, text in (
        ("runs.R4.filter.kind", "matting"),
        ("runs.R4.filter.clean_every", "28"),
    ):
        saved.refresh_from_db()
        answer = browser.post(
            reverse("edit", args=[saved.key]),
            {"base": saved.head.number, "path": path, "text": text, "part": "R4"},
            headers=HTMX,
        )
    page = answer.content.decode()
    saved.refresh_from_db()
    assert plan_of(saved.head).part("R4").filter.clean_every == 28.0 * 86400.0
    assert "is cleaned every 28 days" in page
    assert "once the filter of" in page.lower()
    bench = browser.get(reverse("bench", args=[saved.key, "solids"]), headers=HTMX)
    assert "Matting before the outlet" in bench.content.decode()
    days = browser.get(reverse("offers", args=[saved.key, "over_time"])).content.decode()
    assert "Fines chamber runs over." in days
    assert days.count("data-plot=") == 3


def test_a_sludge_purge_is_added_to_a_settler_and_counted(browser: Client, owner: Any) -> None:
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    browser.post(
        reverse("take", args=[saved.key, "change"]),
        {"base": 1, "verb": "add", "kind": "purge", "target": "C1", "part": "C1"},
        headers=HTMX,
    )
    saved.refresh_from_db()
    purge = plan_of(saved.head).transfers[0]
    assert (purge.kind, purge.source) == ("purge", "C1")
    bench = browser.get(reverse("bench", args=[saved.key, "solids"]), headers=HTMX)
    assert "takes 20 L from Barrel every 7 days" in " ".join(bench.content.decode().split())


def test_fish_are_put_in_and_the_water_is_told(browser: Client, owner: Any) -> None:
    """From the tank's menu: the bench says what it comes to, how much more could be fed, how long
    a start lasts, and what stops when."""
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    for kind in ("cohort", "stone"):
        saved.refresh_from_db()
        browser.post(
            reverse("take", args=[saved.key, "change"]),
            {"base": saved.head.number, "verb": "add", "kind": kind, "target": "T1", "part": "T1"},
            headers=HTMX,
        )
    saved.refresh_from_db()
    assert [p.id for p in (*plan_of(saved.head).fish, *plan_of(saved.head).air)] == [
        "K1",
        "K2",
        "A1",
        "A2",
    ]
    page = browser.get(reverse("plan", args=[saved.key])).content.decode()
    assert '<option value="ammonia">harmful ammonia</option>' in page
    assert 'class="tints"' not in page  # none is drawn until it is looked at
    view = reverse("side_view", args=[saved.key])
    shaded = browser.get(view, {"tint": "oxygen"}, headers=HTMX).content.decode()
    assert shaded.count('class="tints"') == 1
    assert 'class="tints" data-tint="oxygen"' in shaded
    assert '<option value="oxygen" selected>' in shaded
    odd = browser.get(view, {"tint": "<b>"}, headers=HTMX).content.decode()
    assert 'class="tints"' not in odd
    bench = browser.get(reverse("bench", args=[saved.key, "water"]), headers=HTMX)
    words = " ".join(bench.content.decode().split())
    assert "of warm-water fish" in words
    assert "ammonia nitrogen a day" in words
    more = browser.get(reverse("offers", args=[saved.key, "capacity"])).content.decode()
    assert "of feed go in a day" in more
    start = browser.get(reverse("offers", args=[saved.key, "start_up"])).content.decode()
    assert "Ready for fish after" in start
    season = browser.get(reverse("offers", args=[saved.key, "season"])).content.decode()
    assert "at their weight" in season
    air = browser.get(reverse("bench", args=[saved.key, "air"]), headers=HTMX).content.decode()
    assert "If something stops" in air
    assert "Air stone" in air


def test_air_valves_lamps_and_the_hottest_day_are_told_and_set(browser: Client, owner: Any) -> None:
    """From the garden: valves set in one press; a lamp added from the raft's menu, with its
    circuit; a hot summer typed for the site, told on the bench with what would help."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    listed = browser.get(reverse("offers", args=[saved.key, "air"])).content.decode()
    assert "Then gets" in listed
    offer = offer_after(listed, "Biofilter stone")
    browser.post(reverse("take", args=[saved.key, "offer"]), {"offer": offer, "base": 1})
    saved.refresh_from_db()
    assert any(a.valve_open < 0.9 for a in plan_of(saved.head).air)
    browser.post(
        reverse("take", args=[saved.key, "change"]),
        {"base": 2, "verb": "add", "kind": "appliance", "target": "G1", "part": "G1"},
        headers=HTMX,
    )
    for path, text in (
        ("appliances.L1.circuit", "Shed & <b>house</b>"),
        ("site.hot_air", "104 F"),
        ("site.sun", "strong"),
        ("site.night_tariff", "0.15"),
        ("brief.stocked_after", "5"),
    ):
        saved.refresh_from_db()
        browser.post(
            reverse("edit", args=[saved.key]),
            {"base": saved.head.number, "path": path, "text": text, "part": path.split(".")[0]},
            headers=HTMX,
        )
    saved.refresh_from_db()
    now = plan_of(saved.head)
    assert now.appliances[0].use == "lamp"
    assert now.site.hot_air == pytest.approx(40.0)
    bench = browser.get(reverse("bench", args=[saved.key, "air"]), headers=HTMX).content.decode()
    words = " ".join(bench.split())
    assert "Shed &amp; &lt;b&gt;house&lt;/b&gt;" in words
    assert "What keeps it cooler" in words
    assert "at night price" in words
    assert "A plug meter on all of it should count" in words
    page = browser.get(reverse("plan", args=[saved.key])).content.decode()
    assert "On the hottest day the water comes to" in page
    assert "Fish are to come after 5 days" in page
    water = browser.get(reverse("bench", args=[saved.key, "water"]), headers=HTMX).content.decode()
    assert "Sow a week" in water
    assert "Mesh that holds them" in water


def test_what_to_cut_is_told_and_a_wrong_stock_length_too(browser: Client, owner: Any) -> None:
    """Pipe packed into the lengths typed, which stay typed."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    address = reverse("offers", args=[saved.key, "cuts"])
    usual = browser.get(address).content.decode()
    assert "ASTM D1785" in usual
    assert re.search(r"buy <b>\d+</b> of 3,000 mm", usual)
    longer = browser.get(address, {"stock": "6 m"}).content.decode()
    counts = [
        sum(int(n) for n in re.findall(r"buy <b>(\d+)</b>", page)) for page in (usual, longer)
    ]
    assert counts[1] < counts[0]
    wrong = browser.get(address, {"stock": "<i>long</i>"}).content.decode()
    assert "&lt;i&gt;long&lt;/i&gt;” cannot be read" in wrong
    assert "It must be between" in browser.get(address, {"stock": "2 mm"}).content.decode()


def test_a_dose_is_worked_out_and_a_wrong_change_is_told(browser: Client, owner: Any) -> None:
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    address = reverse("offers", args=[saved.key, "dosing"])
    told = browser.get(address, {"substance": "salt", "change": "500"}).content.decode()
    assert "of salt without additives change salt by 500 mg/L" in told
    wrong = browser.get(address, {"substance": "salt", "change": "a <i>lot</i>"}).content.decode()
    assert "a &lt;i&gt;lot&lt;/i&gt;” cannot be read" in wrong
    assert "selected>salt without additives" in wrong
    assert "at most 5,000 mg/L" in browser.get(address, {"change": "9000"}).content.decode()


def test_what_is_let_down_to_the_plants_is_told_and_typed(browser: Client, owner: Any) -> None:
    """A tenth a week at first; what cannot be is told beside the box, with what was typed."""
    plan = load_plan((EXAMPLE.parent / "decoupled-pair.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    bench = browser.get(reverse("bench", args=[saved.key, "water"]), headers=HTMX).content.decode()
    assert "What is let down to the plants" in bench
    address = reverse("offers", args=[saved.key, "pair"])
    words = " ".join(browser.get(address).content.decode().split())
    assert "214 L a week are 30.6 L a day" in words
    assert "Salt, plants" in words
    for typed, told in (("-5 L", "at most 4,280 L"), ("many", "row-error"), ("9 m3", "at most")):
        page = browser.get(address, {"let_down": typed}).content.decode()
        assert f'value="{typed}"' in page
        assert told in page
        assert 'aria-invalid="true"' in page
    page = browser.get(address, {"let_down": "3500 L"}).content.decode()
    assert "run over: let down less at a time" in page
    alone = create_plan(owner, load_plan(EXAMPLE.read_bytes()), "made for a test")
    page = browser.get(reverse("offers", args=[alone.key, "pair"])).content.decode()
    assert "has no two loops" in page


def test_a_settler_without_feed_is_told_without_sludge(browser: Client, owner: Any) -> None:
    """What the water does stands there; of waste that is not made no word."""
    data = json.loads((EXAMPLE.parent / "small-settler.json").read_bytes())
    data["parts"] = [p for p in data["parts"] if p["kind"] != "cohort"]
    data["brief"] |= {"fish_mass": 0.0, "feed_a_day": None}
    saved = create_plan(owner, plan_from_data(data), "made for a test")
    page = browser.get(reverse("bench", args=[saved.key, "solids"])).content.decode()
    assert "how much feed goes in a day" in page
    assert "The water rises at" in page
    assert "of sludge" not in page
    assert "never" not in page
