"""A builder's whole way through the real interface, in headless Chromium."""

import json
import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.steps import (
    EXAMPLES,
    figure,
    hold_of,
    litres,
    open_demo,
    open_file,
    pick,
    revision,
    seconds,
)
from tests.plan_files import lists_of


def test_raise_the_bed_narrow_the_riser_undo_and_carry_away(page: Page, tmp_path: Path) -> None:
    """Sign in, open, raise by 200 mm, type "3/4 in", undo both, export, import."""
    open_demo(page)
    flow, cycle = litres(page), seconds(page)
    drawn = page.locator("#side-view > svg").inner_html()

    pick(page, "B1")
    page.get_by_label("Floor height").fill("1300")
    page.get_by_label("Floor height").press("Enter")
    revision(page, 2)
    raised_flow = litres(page)
    assert raised_flow < flow
    assert seconds(page) > cycle
    assert page.locator("#side-view > svg").inner_html() != drawn

    pick(page, "R1")
    page.get_by_label("Bore", exact=True).fill("3/4 in")
    page.get_by_label("Bore", exact=True).press("Tab")
    revision(page, 3)
    assert litres(page) < raised_flow
    expect(page.locator("#moved")).to_contain_text("Riser: bore 1 in → 3/4 in")

    page.get_by_role("button", name="Undo").click()
    revision(page, 2)
    page.get_by_role("button", name="Undo").click()
    revision(page, 1)
    assert (litres(page), seconds(page)) == (flow, cycle)
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    page.get_by_role("button", name="Redo").click()
    revision(page, 2)
    page.get_by_role("button", name="Undo").click()
    revision(page, 1)

    with page.expect_download() as download:
        page.get_by_role("link", name="Export").click()
    path = tmp_path / "plan.json"
    download.value.save_as(path)
    page.get_by_role("link", name="Plans", exact=True).click()
    page.get_by_label("Plan file").set_input_files(path)
    page.get_by_role("button", name="Import").click()
    expect(page.locator("#moved")).to_contain_text("imported from a file")
    assert (litres(page), seconds(page)) == (flow, cycle)


def test_typing_on_while_the_server_works_loses_nothing(page: Page) -> None:
    """Three boxes filled in haste, the network slow: all three land, in order."""
    open_demo(page)
    pick(page, "T1")

    def delay(route: Any) -> None:
        page.wait_for_timeout(150)
        route.continue_()

    page.route("**/edit/", delay)
    page.get_by_label("Filled to").fill("600 mm")
    page.keyboard.press("Tab")
    page.get_by_label("Freeboard").fill("6 cm")
    page.keyboard.press("Tab")
    page.get_by_label("Hole “return”, height").fill("2 ft 2")
    page.keyboard.press("Tab")
    revision(page, 4)
    page.reload()
    expect(page.get_by_label("Filled to")).to_have_count(0)
    pick(page, "T1")
    expect(page.get_by_label("Filled to")).to_have_value("600")
    expect(page.get_by_label("Freeboard")).to_have_value("6 cm")
    expect(page.get_by_label("Hole “return”, height")).to_have_value("2 ft 2")


def test_two_windows_do_not_overwrite_each_other(page: Page) -> None:
    """The second is told what the first did, and may apply its own on top."""
    open_demo(page)
    other = page.context.new_page()
    other.goto(page.url)
    for window in (page, other):
        pick(window, "B1")
    page.get_by_label("Floor height").fill("1.2 m")
    page.keyboard.press("Enter")
    revision(page, 2)
    other.get_by_label("Freeboard").fill("80")
    other.keyboard.press("Enter")
    expect(other.get_by_role("alert")).to_contain_text("changed elsewhere")
    expect(other.get_by_label("Freeboard")).to_have_value("80")
    expect(other.get_by_label("Floor height")).to_have_value("1.2 m")
    other.get_by_role("button", name="Apply it").click()
    revision(other, 3)
    expect(other.get_by_label("Floor height")).to_have_value("1.2 m")
    expect(other.get_by_role("alert")).to_have_count(0)


def test_a_wrong_entry_is_told_beside_its_box(page: Page) -> None:
    """Kept as typed, and fixed in place; a failing siphon is named in a sentence."""
    open_demo(page)
    pick(page, "P1")
    box = page.get_by_label("Label lift")
    box.fill("two fathoms")
    box.press("Enter")
    expect(page.locator("form.has-error .row-error")).to_contain_text("two fathoms")
    expect(box).to_have_value("two fathoms")
    revision(page, 1)
    box.fill("1 m")
    box.press("Enter")
    revision(page, 2)
    expect(page.locator("form.has-error")).to_have_count(0)
    fault = page.locator('.finding.is-fault[data-rule="B1"]')
    expect(fault).to_contain_text("never starts")
    assert figure(page, "B1.cycle") == "–"


def test_units_keyboard_and_phone(page: Page) -> None:
    """The switch shows gallons and inches; a part opens by keyboard from the picture; on a phone
    nothing hangs over the edge."""
    open_demo(page)
    page.get_by_role("button", name="in, gal").click()
    assert "gal/h" in figure(page, "P1.flow")
    badge = page.locator('#side-view [data-part="S1"]')
    badge.focus()
    badge.press("Enter")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "S1")
    page.get_by_label("Standpipe height").fill("10 1/2")
    page.keyboard.press("Enter")
    revision(page, 2)
    expect(page.locator("#moved")).to_contain_text("10.63 in → 10 1/2 in")
    page.locator(".units-mix summary").click()
    page.locator("#units-length").select_option("metric")
    page.get_by_role("button", name="Show them so").click()
    assert "gal/h" in figure(page, "P1.flow")
    page.locator('#side-view [data-part="S1"]').click()
    expect(page.get_by_label("Standpipe height")).to_have_value("10 1/2 in")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.reload()
    expect(page.locator("#inspector .rows")).to_be_hidden()
    page.locator('#side-view [data-part="B1"]').click()
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "B1")
    expect(page.get_by_label("Floor height")).to_be_visible()
    page.locator("#sheet-bar").click()
    expect(page.locator("#inspector .rows")).to_be_hidden()


def test_a_remedy_a_pump_and_valves_by_hand(page: Page, tmp_path: Path) -> None:
    """A layout of many parts is imported; its finding's remedy, worked out, is one press and
    undone; the questions below answer themselves when opened."""
    plan = lists_of(EXAMPLES / "twin-sumps.json")
    plan["pumps"][0]["dial"] = 0.7
    plan["fish"] = []  # so that the flow is what is told first
    (tmp_path / "plan.json").write_text(json.dumps(plan))
    page.get_by_role("button", name="demo account").click()
    page.set_input_files("#plan-file", tmp_path / "plan.json")
    page.get_by_role("button", name="Import").click()
    remedy = page.locator(".finding .remedies button", has_text="Do it").first
    remedy.wait_for()
    # The first of them stays the first once those of every finding are there.
    expect(page.locator(".finding-remedies[hx-get] > a")).to_have_count(0, timeout=30_000)
    before = page.locator("#figures").inner_text()
    shown = page.locator(".finding .remedies [data-preview]").first
    shown.click()
    expect(page.locator("#preview-words")).to_contain_text("→")
    expect(page.locator("#preview polyline")).not_to_have_count(0)
    revision(page, 1)
    then = page.locator("#preview-words tbody tr", has_text="Pumped flow").locator("td").nth(2)
    flow = then.inner_text()
    shown.click()
    expect(page.locator("#preview-words")).to_have_count(0)
    page.evaluate("""() => {
      document.addEventListener("click", () => { window.looked = scrollY; }, true);
      document.addEventListener("htmx:afterSettle", (event) => {
        if (event.target.id === "workspace") window.stays = scrollY;
      });
    }""")
    remedy.click()
    revision(page, 2)
    expect(page.locator("#findings-title")).to_be_focused()
    looked, stays = page.evaluate("[looked, stays]")
    assert looked > 100  # or it could not tell
    assert stays == looked
    assert figure(page, "P1.flow") == flow
    assert page.locator("#figures").inner_text() != before
    page.get_by_role("button", name="Undo").click()
    revision(page, 1)
    assert page.locator("#figures").inner_text() == before
    page.get_by_text("Suitable pumps").click()
    page.get_by_role("button", name="Take it").first.click()
    revision(page, 3)
    expect(page.locator("#bench-title")).to_be_focused()
    assert "replaced by" in page.locator(".moved-words").inner_text()
    page.get_by_text("Valve settings").click()
    page.get_by_role("button", name="Set the valves so").first.click()
    revision(page, 4)
    assert "valves set" in page.locator(".moved-words").inner_text().lower()
    page.locator("#station-R1").click()
    sizes = page.locator("#inspector .ask", has_text="Pipe sizes")
    sizes.locator("summary").click()
    sizes.locator("table").wait_for()


def test_a_vessel_is_dragged_aside_or_let_go(page: Page) -> None:
    """Sideways it moves in the picture alone; let go of with Escape it does not move at all."""
    open_file(page, "split-flow")
    x, y = hold_of(page, "G1")
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 30.0, y - 40.0, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 60.0, y + 6.0, steps=6)
    page.mouse.up()
    revision(page, 2)
    expect(page.locator(".moved-words")).to_contain_text("Raft moved to the right")
    page.locator("#undo").click()
    revision(page, 1)


def test_a_kind_is_traded_and_the_past_gone_back_to(page: Page) -> None:
    """A bell made a loop has a loop's boxes; a filling goes and comes; the list of the past leads
    back to any of it."""
    open_file(page, "stacked-pair")
    pick(page, "S1")
    page.get_by_label("Built as").select_option("loop")
    revision(page, 2)
    expect(page.get_by_label("Loop height")).to_be_visible()
    expect(page.get_by_label("Bell bore")).to_have_count(0)
    pick(page, "B1")
    page.get_by_label("Filled with").select_option("none")
    revision(page, 3)
    expect(page.get_by_label("Void fraction")).to_have_count(0)
    page.get_by_label("Shape").select_option("measured")
    revision(page, 4)
    marks = page.get_by_label("Marks")
    expect(marks).to_have_value(re.compile("holds 0 L"))
    marks.fill("0 holds 0\n1 ft holds 60 gal")
    marks.blur()
    revision(page, 5)
    expect(marks).to_have_value("0 holds 0\n1 ft holds 60 gal")
    page.get_by_role("link", name="Revision 5").click()
    expect(page.locator("tr[aria-current=true]")).to_contain_text("marks")
    page.get_by_role("button", name="Restore, revision 2").click()
    expect(page.locator(".moved-words")).to_contain_text("Revision 2")
    expect(page.locator("#redo")).to_be_enabled()


def test_two_states_of_a_plan_are_compared(page: Page) -> None:
    """Only what differs is told, both pictures stand beside each other, and any other two can be
    chosen; the list of the past leads here too."""
    open_file(page, "stacked-pair")
    pick(page, "B1")
    page.get_by_label("Floor height").fill("1.3 m")
    page.get_by_label("Floor height").blur()
    revision(page, 2)
    pick(page, "R1")
    page.get_by_label("Put on it").select_option("swing_check")
    revision(page, 3)
    page.get_by_role("link", name="Compare", exact=True).click()
    differs = page.locator("figure", has_text="Differences in the plan")
    expect(differs.locator("tbody tr")).to_have_count(1)
    expect(differs).to_contain_text("Check valve, swing")
    expect(page.locator(".compare-pictures svg")).to_have_count(2)
    page.get_by_label("Left", exact=True).select_option("1")
    page.get_by_role("button", name="Compare", exact=True).click()
    expect(differs.locator("tbody tr")).to_have_count(2)
    expect(differs).to_contain_text("1100 mm")
    moved = page.locator("figure", has_text="Changed figures").locator("tbody tr")
    expect(moved.filter(has_text="Pumped flow")).to_contain_text("%")
    page.get_by_role("link", name="Design").click()
    page.get_by_role("link", name="Revision 3").click()
    page.get_by_role("link", name="Compare with current").first.click()
    expect(differs.locator("tbody tr")).to_have_count(1)


def test_a_layout_is_changed_by_hand(page: Page) -> None:
    """Dragged up, stepped by arrow keys, duplicated, a run laid, a part taken away, all undone."""
    open_file(page, "split-flow")
    x, y = hold_of(page, "G1")
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 24.0, steps=5)
    page.mouse.up()
    revision(page, 2)
    expect(page.locator(".moved-words")).to_contain_text("Raft raised")
    pick(page, "B2")
    page.locator("#station-B2").focus()
    page.keyboard.press("ArrowDown")
    revision(page, 3)
    expect(page.locator(".moved-words")).to_contain_text("Bed two lowered 10 mm")
    page.keyboard.press("ArrowUp")
    revision(page, 4)
    page.locator("#act-duplicate").click()
    revision(page, 5)
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "B3")
    page.get_by_text("Add or connect").click()
    page.locator("#add-kind").select_option("standpipe")
    page.locator(".act-row", has=page.locator("#add-kind")).get_by_role("button").click()
    revision(page, 6)
    pick(page, "J2")
    page.get_by_text("Add or connect").click()
    page.locator("#connect-end").select_option("B3")
    page.get_by_role("button", name="Connect").click()
    revision(page, 7)
    pick(page, "B3")
    page.locator("#act-remove").click()
    revision(page, 8)
    expect(page.locator("#station-B3")).to_have_count(0)
    for number in range(7, 0, -1):
        page.locator("#undo").click()
        revision(page, number)


def test_a_third_bed_takes_two_presses(page: Page) -> None:
    """Duplicated, it comes with feed and drain, and takes its share of the water at once."""
    open_file(page, "split-flow")
    pick(page, "B2")
    page.get_by_role("button", name="Duplicate").click()
    revision(page, 2)
    expect(page.locator("#station-B3")).to_be_visible()
    page.locator("#bench-figures").click()
    row = page.locator("#bench tr", has_text="Bed two B3").first
    expect(row).to_contain_text("L/h")
    expect(page.locator("#findings")).not_to_contain_text("Bed two B3 gets no water")


def test_time_is_played_on_the_side_view(page: Page) -> None:
    """Followed, played, scrubbed to after the power has gone, the tail clogged, and closed."""
    open_file(page, "stacked-pair")
    expect(page.locator(".dynamic")).to_contain_text("empties Fish tank", timeout=20_000)
    expect(page.locator("#verdict")).to_have_text("1 warning")
    expect(page.locator("#findings-title")).to_have_text("Problems and warnings")
    page.locator("#bench-hours").click()
    page.locator("#scenario-cut").fill("4:00")
    page.get_by_role("button", name="Simulate").click()
    expect(page.locator("#scenario-cut")).to_have_value("4:00")
    expect(page.locator("#bench .steps, #bench")).to_contain_text("power cut", timeout=20_000)
    page.locator("#play-open").click(timeout=20_000)
    playing = expect(page.locator("#side-view > svg"))
    playing.to_have_class(re.compile("is-playing"), timeout=20_000)
    page.locator("#play-toggle").click()
    scrub = "(e, v) => { e.value = v; e.dispatchEvent(new Event('input', {bubbles: true})); }"
    tops = []
    for time in (0, 330, 16_000):
        page.locator("#play-at").evaluate(scrub, time)
        tops.append(float(page.locator('[data-water="B1"]').get_attribute("y") or 0.0))
    assert tops[1] < tops[0]  # the bed has filled
    expect(page.locator("#play-words")).to_contain_text("Power cut")
    expect(page.locator('[data-pipe="R1"].flow')).not_to_have_class(re.compile("runs"))
    page.locator("#play-at").evaluate(scrub, 3600)
    before = page.locator('[data-water="B1"]').get_attribute("y")
    page.locator("#play-plug").click()
    expect(page.locator("[data-calm]")).not_to_have_count(0)
    assert page.locator('[data-water="B1"]').get_attribute("y") == before
    expect(page.locator(".steps")).to_contain_text("1:00:00 power cut for 2 h")
    page.locator("#play-at").evaluate(scrub, 7000)
    wet, dry = (
        float(page.locator(f'[data-{of}="T1"]').get_attribute(at) or 0.0)
        for of, at in (("calm", "y1"), ("water", "y"))
    )
    assert wet != dry
    page.locator("#play-undo").click()
    expect(page.locator(".steps")).to_have_count(0)
    page.locator("#play-close").click()
    expect(page.locator("#side-view > svg")).not_to_have_class(re.compile("is-playing"))
    page.locator("#scenario-cut").fill("")
    page.locator("#scenario-event").select_option("block:R2")
    page.locator("#scenario-hours").fill("soon")
    page.get_by_role("button", name="Simulate").click()
    expect(page.locator("#scenario-hours-error")).to_contain_text("is no time")
    expect(page.locator("#scenario-event")).to_have_value("block:R2")
    page.locator("#scenario-hours").fill("3")
    page.get_by_role("button", name="Simulate").click()
    page.get_by_text("Event log").click()
    expect(page.locator(".events")).to_contain_text("overflows", timeout=20_000)


def test_keys_go_round_the_parts_and_pins_stand_where_something_is_wrong(page: Page) -> None:
    """n and p in the order of the water, / to a part by name, ? for the list; a fault's pin."""
    open_file(page, "faults/trickling-siphon")
    expect(page.locator('.badge-link[data-part="S1"]')).to_have_class(re.compile("has-fault"))
    page.keyboard.press("n")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "P1")
    page.keyboard.press("p")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "site")
    page.keyboard.press("/")
    page.keyboard.type("tail")
    page.keyboard.press("Enter")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "R2")
    page.locator("h1").click()
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("#keys")).not_to_be_visible()


def _tab_to(page: Page, selector: str) -> None:
    """Press Tab until the focus stands on what matches."""
    for _ in range(250):
        page.keyboard.press("Tab")
        if page.evaluate("s => document.activeElement.matches(s)", selector):
            return
    raise AssertionError(f"Tab never came to {selector}")


def test_the_whole_way_by_keyboard(page: Page) -> None:
    """Plan, part, edit, finding, preview, remedy and undo without touching the mouse; nothing on
    the page jumps when it is repainted."""
    open_file(page, "faults/trickling-siphon")
    expect(page.locator(".finding [data-preview]").first).to_be_visible()
    expect(page.locator("#bench .uplot")).to_be_visible()
    expect(page.locator(".dynamic")).to_contain_text("empties Fish tank", timeout=20_000)
    page.evaluate("""() => {
      window.jumps = [];
      const rect = ({ x, y, width, height }) => [x, y, width, height].map(Math.round);
      const told = ({ node, previousRect, currentRect }) =>
        [node && (node.id || node.className), rect(previousRect), rect(currentRect)];
      new PerformanceObserver((list) => {
        for (const shift of list.getEntries()) {
          if (shift.value >= 0.1) window.jumps.push([shift.value, window.scrollY,
            ...shift.sources.map(told)]);
        }
      }).observe({ type: "layout-shift" });
    }""")
    page.keyboard.press("Control+k")
    page.keyboard.type("fish tank")
    page.keyboard.press("Enter")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "T1")
    _tab_to(page, "#box-vessels-T1-freeboard")
    page.keyboard.press("Control+a")
    page.keyboard.type("6 cm")
    page.keyboard.press("Enter")
    revision(page, 2)
    expect(page.locator("#box-vessels-T1-freeboard")).to_be_focused()
    expect(page.locator(".finding [data-preview]").first).to_be_visible()
    page.keyboard.press("Escape")
    page.locator("body").press("Shift+Tab")
    _tab_to(page, ".finding [data-preview]")
    page.keyboard.press("Enter")
    expect(page.locator("#preview-words")).to_contain_text("no problems")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    revision(page, 3)
    expect(page.locator(".finding.is-fault")).to_have_count(0)
    page.keyboard.press("Control+z")
    revision(page, 2)
    expect(page.locator(".finding.is-fault")).to_have_count(1)
    page.keyboard.press("/")
    page.keyboard.type("redo")
    page.keyboard.press("Enter")
    revision(page, 3)
    page.keyboard.press("Control+k")
    page.keyboard.type("siphons")
    page.keyboard.press("Enter")
    expect(page.locator("#bench .cutaway")).to_be_visible()
    assert page.evaluate("window.jumps") == []
