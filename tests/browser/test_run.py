"""The log, with a thumb on a phone."""

import re

from playwright.sync_api import Page, expect

from tests.browser.steps import open_file


def test_a_bucket_is_timed_on_the_phone(page: Page) -> None:
    """Two taps to the box; the stopwatch writes into it; what was measured stands beside the
    plan, and nothing runs off the screen."""
    open_file(page, "split-flow")
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_role("link", name="Run", exact=True).click()
    page.get_by_role("link", name="Flow, by a bucket").click()
    page.locator("input[name=part]").nth(1).check()
    watch = page.locator(".stopwatch button")
    watch.click()
    expect(watch).to_have_text("Stop")
    page.wait_for_timeout(600)
    watch.click()
    expect(page.locator("#entry-bucket-times")).to_have_value(re.compile(r"^\d+\.\d$"))
    page.locator("#entry-bucket-times").fill("43.1 43.6")
    page.get_by_role("button", name="Keep it").click()
    row = page.locator("#run-measures ~ .scrolls tbody tr")
    expect(row).to_contain_text("as planned")
    page.get_by_role("button", name=re.compile("^Done: ")).first.click()
    expect(page.locator(".run-log li")).to_have_count(2)
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
