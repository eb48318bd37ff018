"""The ground plan under the hand: dragged, turned by keys, a pipe led round a corner."""

import re

from playwright.sync_api import Page, expect

from tests.browser.steps import open_file, stroke_point


def _base(page: Page, number: int) -> None:
    expect(page.locator("#ground-plan")).to_have_attribute("data-base", str(number))


def _middle(page: Page, selector: str) -> tuple[float, float]:
    box = page.locator(selector).first.bounding_box()
    assert box is not None
    return box["x"] + 0.5 * box["width"], box["y"] + 0.5 * box["height"]


def test_a_vessel_is_dragged_turned_and_its_pipes_follow(page: Page) -> None:
    """By the mouse, then by keys with the focus kept; lengths follow, in the side view too."""
    open_file(page, "raft-line")
    page.get_by_role("link", name="Ground plan").click()
    _base(page, 1)
    x, y = _middle(page, '[data-foot="S1"]')
    scale = float(page.locator("#ground-plan").get_attribute("data-per-metre") or 0.0)
    shown = page.locator("#ground-plan").evaluate("svg => svg.getScreenCTM().a")
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 2.0 * scale * shown, y, steps=6)
    page.mouse.up()
    _base(page, 2)
    expect(page.locator("#ground-x")).to_have_value("3700")  # from 1.7 m, 2 m to the right
    expect(page.locator('[data-foot="S1"]')).to_be_focused()
    page.keyboard.press("r")
    _base(page, 3)
    expect(page.locator("#ground-turned")).to_have_value("15")
    expect(page.locator('[data-foot="S1"]')).to_be_focused()
    page.keyboard.press("ArrowUp")
    _base(page, 4)
    page.get_by_role("button", name="Take all lengths from the ground").click()
    _base(page, 5)
    page.select_option("#ground-part", "R1")
    expect(page.locator(".ground-side")).to_contain_text("from the ground plan")
    told = re.search(r"([\d,]+) mm on the ground", page.locator(".ground-side").inner_text())
    assert told is not None
    page.get_by_role("link", name="Open it in the side view").click()
    expect(page.locator("#inspector").get_by_label("Length along the level")).to_have_value(
        re.compile(told[1].replace(",", ""))
    )


def test_a_pipe_is_led_round_a_corner_by_hand(page: Page) -> None:
    """Pressed once it is picked, pressed again it gets a corner there, which is then dragged; undo
    takes it back."""
    open_file(page, "raft-line")
    page.get_by_role("link", name="Ground plan").click()
    _base(page, 1)
    page.mouse.click(*stroke_point(page, '[data-way="R4"] .way-grip'))
    expect(page.locator('[data-way="R4"]')).to_have_class(re.compile("is-picked"))
    page.mouse.click(*stroke_point(page, '[data-way="R4"] .way-grip'))
    _base(page, 2)
    corner = page.locator('[data-way="R4"] [data-corner="0"]')
    expect(corner).to_be_visible()
    x, y = _middle(page, '[data-way="R4"] [data-corner="0"]')
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 60, y, steps=4)
    page.mouse.up()
    _base(page, 3)
    expect(page.locator(".ground-side")).to_contain_text("with 2 bends")
    page.get_by_role("button", name="Undo").click()
    _base(page, 2)


def test_keys_alone_pick_and_move(page: Page) -> None:
    """A vessel is reached by Tab, picked by Enter and moved by arrows; by 10 mm with Shift."""
    open_file(page, "raft-line")
    page.get_by_role("link", name="Ground plan").click()
    page.locator('[data-foot="C1"]').focus()
    page.keyboard.press("Enter")
    expect(page.locator("#ground-x")).to_have_value("3750")
    expect(page.locator('[data-foot="C1"]')).to_be_focused()
    page.keyboard.press("Shift+ArrowLeft")
    _base(page, 2)
    expect(page.locator("#ground-x")).to_have_value("3740")
