"""Every screen as a browser draws it: nothing overlaps, nothing bars anyone's way."""

import re
from gzip import compress
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Page, Response, expect

from bathys.plan import load_plan
from bathys_web.accounts.models import DemoAccount
from bathys_web.plans.actions.create_plan import create_plan
from tests.browser.steps import EXAMPLES, open_file, pick, revision

_BOXES = """() => {
  const svg = document.querySelector('#side-view > svg');
  const boxes = [...svg.querySelectorAll('text')]
    .filter((t) => t.getClientRects().length && !t.closest('.badge-link'))
    .map((t) => [t.textContent, t.getBBox()]);
  for (const c of svg.querySelectorAll('.badge-link circle')) {
    boxes.push([c.parentNode.dataset.part, c.getBBox()]);
  }
  const all = svg.viewBox.baseVal;
  return boxes.map(([words, b]) => [words, b.x - all.x, b.y - all.y, b.x + b.width - all.x,
    b.y + b.height - all.y, all.width, all.height]);
}"""


def _stand_together(page: Page, name: str) -> None:
    """On the first screen verdict, picture and picked part stand beside each other."""
    boxes = [
        page.locator(one).bounding_box()
        for one in ("#verdict", "#side-view > svg", "#inspector .inspector-title")
    ]
    assert all(box is not None and box["y"] + box["height"] <= 800 for box in boxes), name
    _, picture, title = boxes
    assert picture is not None and title is not None
    assert picture["x"] + picture["width"] <= title["x"], name


def _lie_apart(page: Page, name: str) -> None:
    """No label lies over another or leaves the picture."""
    boxes = page.evaluate(_BOXES)
    for number, (words, left, top, right, foot, wide, tall) in enumerate(boxes):
        assert left >= -1.5, (name, words)
        assert top >= -1.5, (name, words)
        assert right <= wide + 1.5, (name, words)
        assert foot <= tall + 1.5, (name, words)
        for other, x0, y0, x1, y1, *_ in boxes[:number]:
            across, down = min(right, x1) - max(left, x0), min(foot, y1) - max(top, y0)
            # A line's box is taller than its letters by some pixels.
            assert across <= 1.5 or down <= 3.5, (name, words, other)


_ANOTHER = """async (address) => {
  const answer = await fetch(address, { headers: { "HX-Request": "true" } });
  document.querySelector("#side-view").outerHTML = await answer.text();
}"""


def test_labels_as_drawn_stay_apart_on_every_example(page: Page) -> None:
    """Measured by the browser in either units: from the bench-top to twelve beds, nothing lies over
    anything or leaves the picture; the first screen holds what it must."""
    page.get_by_role("button", name="demo account").click()
    # Only the picture is wanted here, not what takes long to work out beside it.
    page.route(re.compile("/(offers|bench)/"), lambda route: route.abort())
    owner = DemoAccount.objects.get().user
    here, places = page.url.split("/plans/")[0].rstrip("/"), dict[str, str]()
    tinted = set[str]()
    for path in sorted(EXAMPLES.glob("**/*.json"), key=lambda p: (p.parent != EXAMPLES, p.name)):
        plan = load_plan(path.read_bytes())
        saved = create_plan(owner, plan, "made for a test")
        places[path.name] = f"{here}/plans/{saved.key}/"
        if path.parent != EXAMPLES:  # much as another on the whole; in the one picture it differs
            for tint in ("", "?tint=oxygen") if plan.fish else ("",):
                page.evaluate(_ANOTHER, f"{places[path.name]}side-view/{tint}")
                _lie_apart(page, path.name)
            continue
        page.goto(places[path.name])
        expect(page.locator("#side-view > svg")).to_be_visible()
        page.evaluate("document.fonts.ready")
        _stand_together(page, path.name)
        _lie_apart(page, path.name)
        if page.locator("#show-tint").count():
            tinted.add(path.name)
            page.locator("#show-tint").select_option("oxygen")
            expect(page.locator(".tint-figure:visible").first).to_be_visible()
            _lie_apart(page, path.name)
            page.locator("#show-tint").select_option("")
    page.get_by_role("button", name="in, gal").click()
    page.wait_for_load_state("load")
    for name, place in places.items():
        page.evaluate(_ANOTHER, f"{place}side-view/{'?tint=oxygen' if name in tinted else ''}")
        _lie_apart(page, name)


def test_the_side_view_is_looked_at_from_near(page: Page) -> None:
    """Closer by key and button, pulled about, whole again; what is shown is kept over an edit."""
    open_file(page, "split-flow")
    picture = page.locator("#side-view .zoomed")
    whole = picture.get_attribute("transform")
    page.keyboard.press("+")
    near = picture.get_attribute("transform")
    assert near != whole
    page.locator("#bench-figures").click()
    page.locator("#bench .scrolls .told", has_text="L/h").first.click()
    expect(page.locator("#explained")).to_contain_text("heads balance at every joint")
    page.keyboard.press("Escape")
    expect(page.locator("#explained")).to_be_hidden()
    page.keyboard.press("Control+k")
    expect(page.locator("#find-box")).to_be_focused()
    page.locator("#show-grade").check()
    expect(page.locator(".grade").first).to_be_visible()
    expect(page.locator('[data-pipe="R1"].flow')).to_be_hidden()
    page.locator("#show-flow").check()
    expect(page.locator('[data-pipe="R1"].flow')).to_be_visible()
    pick(page, "B1")
    page.get_by_label("Freeboard").fill("60")
    page.keyboard.press("Enter")
    revision(page, 2)
    assert picture.get_attribute("transform") == near
    expect(page.locator(".grade").first).to_be_visible()
    page.locator("#zoom-all").click()
    assert picture.get_attribute("transform") == whole


AXE = (Path(__file__).parent / "axe" / "axe.min.js").read_text()
WCAG = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]


COLOURS = ["color-contrast", "link-in-text-block"]
"""Rules that ask for colours: all that the dark can break, since it changes nothing else."""


def _barriers(page: Page, *, also_dark: bool = False) -> list[str]:
    """Serious and critical faults that axe-core finds against WCAG 2.2 AA, once all has come: what
    is on its way is faded."""
    expect(page.locator(".htmx-request")).to_have_count(0, timeout=20_000)
    page.evaluate(AXE)
    barriers = _found(page, {"type": "tag", "values": WCAG})
    if also_dark:
        page.emulate_media(color_scheme="dark", reduced_motion="reduce")  # no colour halfway
        assert page.evaluate("matchMedia('(prefers-color-scheme: dark)').matches")
        barriers += [f"in the dark, {b}" for b in _found(page, {"type": "rule", "values": COLOURS})]
        page.emulate_media(color_scheme="light", reduced_motion="reduce")
    wide = page.evaluate("document.documentElement.scrollWidth - innerWidth")
    return [*barriers, *([f"{wide} px wider than the window"] if wide > 0 else [])]


def _found(page: Page, rules: dict[str, Any]) -> list[str]:
    found: list[dict[str, Any]] = page.evaluate(
        "rules => axe.run("
        "document, {runOnly: rules, resultTypes: ['violations'], selectors: false}"
        ").then(r => r.violations)",
        rules,
    )
    return [
        f"{v['id']}: {v['nodes'][0]['html'][:120]}"
        for v in found
        if v["impact"] in ("serious", "critical")
    ]


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["desk", "phone"])
def test_no_screen_has_a_barrier(page: Page, size: tuple[int, int]) -> None:
    """Every page, a plan with faults and every bench; light and dark. None is wider than the
    window."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.emulate_media(color_scheme="light", reduced_motion="reduce")
    looks = {"also_dark": size[0] > 1000}
    assert _barriers(page, **looks) == []
    here = page.url.split("/accounts/")[0]
    for place in ("/accounts/signup/", "/accounts/password/reset/", "/mailbox/", "/learn/"):
        page.goto(here + place)
        assert _barriers(page, **looks) == [], place
    page.goto(here)
    open_file(page, "faults/trickling-siphon")
    address = page.url.split("?")[0]
    page.locator('#side-view [data-part="S1"]').click()
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "S1")
    page.keyboard.press("Escape")
    expect(page.locator(".dynamic")).to_contain_text("empties Fish tank", timeout=20_000)
    for bench, has in (
        ("pump", ".uplot"),
        ("siphon", ".cutaway"),
        ("levels", ".sump-cut"),
        ("figures", "caption"),
    ):
        page.locator(f"#bench-{bench}").click()
        expect(page.locator(f"#bench {has}").first).to_be_visible(timeout=20_000)
        assert _barriers(page, **looks) == []
    with page.expect_response(re.compile("/inspector/")):
        page.locator('#side-view [data-part="S1"]').click()
    page.wait_for_timeout(100)  # the boxes are put in again
    page.get_by_label("Standpipe height").fill("260")
    page.get_by_label("Standpipe height").press("Enter")
    expect(page.locator("#moved")).to_contain_text("standpipe height 270 mm → 260 mm")
    page.locator("#inspector").evaluate("e => e.scrollTo(0, 0)")  # nothing half under its head
    assert _barriers(page, **looks) == []
    page.keyboard.press("Escape")
    page.locator("#bench-hours").click()
    page.locator("#play-open").click(timeout=20_000)
    expect(page.locator("#play-toggle")).to_be_visible(timeout=20_000)
    assert _barriers(page, **looks) == []
    plan = address.removeprefix(here)
    for place in (
        *(f"{plan}{part}/" for part in ("ground", "compare", "history", "delete")),
        *(f"{plan}ground/?part=T1", f"{plan}offers/shopping/", f"{plan}build/"),
        *(f"{plan}run/{part}" for part in ("", "enter/bucket/", "instruments/", "season/")),
        *(f"{plan}run/{part}/" for part in ("trials", "as-built", "away", "offline")),
        *("/learn/validity/", "/learn/help/instruments/"),
        *("/parts/", "/learn/", "/learn/help/design/", "/learn/help/first-plan/"),
        *("/learn/glossary/", "/accounts/demo/keep/", "/accounts/logout/", "/no-such-page/", "/"),
    ):
        page.goto(here + place)
        assert _barriers(page, **looks) == [], place
    page.goto(f"{here}{plan}run/instruments/")
    page.get_by_role("button", name="simulated board").click()
    expect(page.get_by_role("heading", name="The simulated board")).to_be_visible()
    page.locator("details.board summary, details:has(.board-form) summary").first.click()
    assert _barriers(page, **looks) == []
    page.locator("#read-now table a").first.click()
    expect(page.get_by_role("heading", name="How it is sent")).to_be_visible()
    assert _barriers(page, **looks) == []


FOLDED = "main details:not([open], .ask, .figure, .plans-label, #inspector *)"


def test_every_page_is_laid_out_for_paper(page: Page) -> None:
    """On paper there is nothing to press (a figure is a button) or fill in, nothing folded but what
    is worked out on asking, and nothing beside it; on the screen all is folded again afterwards."""
    open_file(page, "faults/hanging-siphon")
    plan, here = page.url.split("?")[0], page.url.split("/plans/")[0]
    page.set_viewport_size({"width": 794, "height": 1123})
    for place in (
        *(plan, f"{plan}compare/", f"{plan}history/", f"{plan}bench/levels/"),
        *(f"{plan}ground/?part=T1", f"{plan}build/?ack=B1.S1"),
        *(f"{here}/{p}" for p in ("", "parts/", "learn/help/design/", "learn/glossary/")),
    ):
        page.goto(place)
        page.wait_for_load_state("networkidle")
        page.emulate_media(media="print")
        page.locator(FOLDED).evaluate_all("all => all.forEach(d => { d.dataset.was = 'folded' })")
        page.evaluate("dispatchEvent(new Event('beforeprint'))")
        assert page.locator(FOLDED).count() == 0, place
        pressed = page.locator("main :is(button:not(.told), input, select, textarea):visible")
        assert pressed.all_inner_texts() == [], place
        assert page.locator(".masthead").is_hidden()
        assert page.evaluate("document.documentElement.scrollWidth") <= 794, place
        page.evaluate("dispatchEvent(new Event('afterprint'))")
        assert page.locator("[data-was=folded][open]").count() == 0, place
        page.emulate_media(media="screen")
    page.goto(plan)
    page.emulate_media(media="print")
    expect(page.get_by_text(re.compile("Revision 1 of .* UTC"))).to_be_visible()


_SHIFTS = """window.shifted = 0;
new PerformanceObserver((list) => {
  for (const one of list.getEntries()) if (!one.hadRecentInput) window.shifted += one.value;
}).observe({ type: "layout-shift", buffered: true });"""


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["desk", "phone"])
def test_a_plan_is_light_to_load_and_stands_still(page: Page, size: tuple[int, int]) -> None:
    """By a browser that has nothing of it yet: at most 350 KB, though what time brings out comes
    late; and nothing that is read moves by more than a tenth of the window."""
    open_file(page, "stacked-pair")
    context = page.context.browser.new_context(  # type: ignore[union-attr]
        viewport={"width": size[0], "height": size[1]}, storage_state=page.context.storage_state()
    )
    fresh = context.new_page()
    loaded = list[Response]()
    fresh.on("response", lambda answer: loaded.append(answer))  # noqa: PLW0108 - its wrapper is kept on it
    fresh.add_init_script(_SHIFTS)
    fresh.goto(page.url)
    expect(fresh.locator(".dynamic")).to_contain_text("Pump empties Fish tank", timeout=20_000)
    fresh.wait_for_load_state("networkidle")
    # As the start command serves it: text compressed, faces as they are.
    sizes = [len(r.body() if ".woff2" in r.url else compress(r.body(), 6)) for r in loaded]
    assert 100e3 < sum(sizes) <= 350e3
    assert fresh.evaluate("window.shifted") <= 0.1
    context.close()


def test_account_pages_have_no_barrier(page: Page) -> None:
    """Those that a demo account has no need of, on a phone, with what is refused."""
    page.set_viewport_size({"width": 390, "height": 844})
    page.emulate_media(color_scheme="light", reduced_motion="reduce")
    get_user_model().objects.create_user("a", "a@b.example", "a long pass phrase")
    page.get_by_label("E-mail address").fill("a@b.example")
    page.get_by_label("Password").fill("a long pass phrase")
    page.get_by_role("button", name="Sign in").click()
    here = page.url.rstrip("/")
    for place, press in (
        ("/accounts/email/", "Change address"),
        ("/accounts/password/change/", "Change it"),
        ("/accounts/delete/", "Delete account"),
        ("/parts/", "Add it"),
    ):
        page.goto(here + place)
        page.get_by_role("button", name=press).click()
        expect(page.locator("[aria-invalid='true']").first).to_be_visible()
        assert _barriers(page, also_dark=True) == [], place
