"""From a brief to a sized plan, by hand in the browser."""

import re

import pytest
from playwright.sync_api import Page, expect

WAYS = {
    "stacked_pair": (1280, "mm, L", {"tank_container": "tote-1000-low", "beds_count": "1"}),
    "split_flow": (1280, "in, gal", {"beds_count": "2", "rafts_count": "1", "dig": "20 in"}),
    "raft_line": (390, "mm, L", {"beds_count": "0", "rafts_count": "2", "highest": "2.2 m"}),
}


@pytest.mark.parametrize("layout", WAYS)
def test_six_questions_come_to_a_sound_plan(page: Page, layout: str) -> None:
    """Answered, sized, compared, taken: the plan has no problem, and its brief leads back."""
    wide, units, told = WAYS[layout]
    page.set_viewport_size({"width": wide, "height": 800})
    page.get_by_role("button", name="demo account").click()
    page.get_by_role("button", name=units, exact=True).click()
    page.get_by_role("link", name="New plan from a brief").click()
    page.locator(f"input[name=layout][value={layout}]").check()
    for box, typed in told.items():
        field = page.locator(f"#brief-{box}")
        if box.endswith("container"):
            field.select_option(typed)
        else:
            field.fill(typed)
    page.get_by_role("button", name="Size it").click()
    card = page.locator(".brief-card").first
    expect(card).to_be_visible(timeout=90_000)
    expect(card.locator("svg")).to_be_visible()
    card.get_by_text("Why each size is so").click()
    expect(card.locator(".brief-reasons")).to_contain_text("at harvest")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    card.get_by_role("button", name="Take this plan").click()
    expect(page.locator("#verdict")).to_have_class(re.compile("is-(sound|warning|noted)"))
    expect(page.locator(".finding.is-fault")).to_have_count(0)
    page.get_by_role("link", name="Brief", exact=True).click()
    expect(page.locator(f"input[name=layout][value={layout}]")).to_be_checked()


def test_what_is_in_the_way_is_freed_by_one_press(page: Page) -> None:
    """A wish that cannot be told, with what frees it; pressed, it comes to plans."""
    page.get_by_role("button", name="demo account").click()
    page.get_by_role("link", name="New plan from a brief").click()
    page.locator("input[name=layout][value=stacked_pair]").check()
    page.locator("#brief-beds_count").fill("1")
    page.locator("#brief-highest").fill("1 m")
    page.get_by_role("button", name="Size it").click()
    answers = page.locator("#brief-answers")
    expect(answers).to_contain_text("you allowed 1,000 mm", timeout=90_000)
    page.get_by_role("button", name="Change it so and size it").click()
    expect(page.locator(".brief-card").first).to_be_visible(timeout=90_000)
