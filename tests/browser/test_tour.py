"""The guided tour, as it is gone through; and what the box to go to a part says."""

import re

from playwright.sync_api import Page, expect

from tests.browser.steps import open_demo, pick, revision

# What the step speaks of may just be drawn anew, and the card put beside it at the next frame.
_APART = """() => {
  const both = ["#tour", ".tour-target"].map((s) => document.querySelector(s));
  if (!both.every(Boolean)) return false;
  const [told, about] = both.map((e) => e.getBoundingClientRect());
  return told.left >= about.right || told.right <= about.left || told.top >= about.bottom ||
    told.bottom <= about.top || about.height > 0.6 * 800;
}"""


def _at(page: Page, title: str) -> None:
    """The tour has come to this step, and its card comes to cover nothing of what it speaks of."""
    expect(page.locator("#tour h2")).to_have_text(title, timeout=20_000)  # after an edit
    expect(page.locator(".tour-target").first).to_be_visible()
    page.wait_for_function(_APART, timeout=5_000)


def test_the_tour_is_gone_through_left_and_gone_on_with(page: Page) -> None:
    """Each step that asks for something goes on when it is done."""
    page.get_by_role("button", name="demo account").click()
    page.get_by_role("link", name="Learn").click()
    page.get_by_role("button", name="Start the tour").click()
    _at(page, "The side view")
    for title in ("The verdict", "The figures", "Choose a part"):
        page.get_by_role("button", name="Next").click()
        _at(page, title)
    pick(page, "B1")
    _at(page, "Change it")
    page.get_by_label("Floor height").fill("1.4 m")
    page.get_by_label("Floor height").press("Enter")
    _at(page, "What changed")
    page.get_by_role("button", name="Leave the tour").click()
    expect(page.locator("#tour")).to_have_count(0)
    page.reload()
    expect(page.locator("#side-view > svg")).to_be_visible()
    expect(page.locator("#tour")).to_have_count(0)
    page.get_by_role("link", name="Learn").click()
    page.get_by_role("link", name="Go on with the tour").click()
    _at(page, "What changed")
    page.get_by_role("button", name="Next").click()
    page.locator("#undo").click()
    _at(page, "Benches")
    page.locator("#bench-siphon").click()
    _at(page, "The plan itself")
    pick(page, "site")
    _at(page, "Add a bed")
    page.get_by_label("Add", exact=True).select_option(label="grow bed")
    expect(page.get_by_label("Fed from")).to_have_value("R1")
    page.get_by_role("button", name="Add it").click()
    _at(page, "Fix problems")
    page.get_by_role("button", name="Next").click()
    page.get_by_role("button", name="Finish").click()
    expect(page.locator("#tour")).to_have_count(0)
    page.get_by_role("link", name="Learn").click()
    expect(page.get_by_role("link", name="Go on with the tour")).to_be_hidden()


def test_a_part_that_is_not_there_is_told(page: Page) -> None:
    """And gone when something was found."""
    open_demo(page)
    box = page.get_by_label("Go to")
    box.fill("frobnicator")
    box.press("Enter")
    expect(page.get_by_text("is called “frobnicator”")).to_be_visible()
    box.fill("fish")
    box.press("Enter")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "T1")
    expect(page.get_by_text(re.compile("is called"))).to_have_count(0)


def test_what_is_added_is_picked_and_what_was_typed_stays(page: Page) -> None:
    """A vessel becomes a container with one choice; 55 in stays 55 in under either units."""
    open_demo(page)
    page.get_by_label("Add", exact=True).select_option(label="grow bed")
    expect(page.get_by_label("Drains to")).to_have_value("T1")
    page.get_by_role("button", name="Add it").click()
    revision(page, 2)
    expect(page.locator(".inspector-title")).to_contain_text("Grow bed B2")
    expect(page.locator(".inspector-title")).to_be_focused()
    page.get_by_label("Container").select_option("tote-1000-bed")
    page.get_by_role("button", name="Use it").click()
    revision(page, 3)
    expect(page.locator(".inspector-title")).to_contain_text("holds 325 L")
    page.get_by_label("Floor height").fill("55 in")
    page.get_by_label("Floor height").press("Enter")
    revision(page, 4)
    expect(page.get_by_label("Floor height")).to_have_value("55 in")
    page.get_by_role("button", name="in, gal").click()
    expect(page.get_by_label("Floor height")).to_have_value("55")
    expect(page.locator(".inspector-title")).to_contain_text("holds 85.9 gal")
