"""The side view under the hand: what is pressed is picked, and what a change does is seen."""

from playwright.sync_api import Browser, Page, expect

from tests.browser.steps import figure, hold_of, open_file, pick, revision, stroke_point


def test_what_is_pressed_in_the_picture_is_picked(page: Page) -> None:
    """A pipe, a shell, a pump; the arrow keys step it from there; the slip tells what it did."""
    open_file(page, "split-flow")
    rows = page.locator("#inspector .rows")
    picture = page.locator("#side-view")
    picture.scroll_into_view_if_needed()
    for selector, part in (
        ('[data-pipe="R2"].pipe-wall', "R2"),
        ('[data-pipe="R9"].pipe-wall', "R9"),
    ):
        page.mouse.click(*stroke_point(page, selector))
        expect(rows).to_have_attribute("data-part", part)
        picture.scroll_into_view_if_needed()
    page.mouse.click(*hold_of(page, "G1"))
    expect(rows).to_have_attribute("data-part", "G1")
    flow = figure(page, "P1.flow")
    page.keyboard.press("ArrowUp")
    revision(page, 2)
    slip = page.locator("#moved")
    expect(slip).to_contain_text("Raft raised 10 mm")
    pick(page, "R2")
    page.get_by_label("Valve handle").fill("60")
    page.get_by_label("Valve handle").press("Enter")
    revision(page, 3)
    row = slip.locator("div", has_text="Fish tank turnover")
    expect(row).to_contain_text(f"→ {figure(page, 'T1.turnover')}")
    page.locator("#undo").click()
    revision(page, 2)
    expect(slip).to_contain_text("Undone: ")
    page.locator("#undo").click()
    revision(page, 1)
    assert figure(page, "P1.flow") == flow
    expect(slip).to_contain_text("Revision 1")


def test_the_picture_stays_beside_the_boxes_while_they_are_typed_into(page: Page) -> None:
    """The inspector scrolls by itself: the page and the picture stay where they are, and what the
    edit moved stands at the head of the page."""
    open_file(page, "twin-sumps")
    pick(page, "R2")
    box = page.get_by_label("Valve handle")
    box.scroll_into_view_if_needed()
    expect(page.locator("#side-view > svg")).to_be_in_viewport(ratio=0.95)
    assert page.evaluate("scrollY") == 0
    box.fill("60")
    page.keyboard.press("Enter")
    revision(page, 2)
    expect(page.locator("#side-view > svg text", has_text="60°")).to_be_in_viewport()
    expect(page.locator("#moved")).to_contain_text("Fish tank turnover")
    expect(page.locator("#moved")).to_be_in_viewport()
    expect(page.get_by_label("Valve handle")).to_be_in_viewport()
    assert page.evaluate("scrollY") == 0


def test_a_finger_moves_only_what_it_has_picked(chromium: Browser, page: Page) -> None:
    """Else it pulls the page; a press picks, as with the mouse."""
    open_file(page, "split-flow")
    state = page.context.storage_state()
    phone = chromium.new_context(
        viewport={"width": 390, "height": 844}, has_touch=True, storage_state=state
    )
    hand = phone.new_page()
    hand.goto(page.url)
    shell = hand.locator('[data-lift="T1"]')
    shell.scroll_into_view_if_needed()
    assert shell.evaluate("e => getComputedStyle(e).touchAction") == "auto"
    box = shell.bounding_box()
    assert box is not None
    hand.touchscreen.tap(box["x"] + 0.4 * box["width"], box["y"] + 0.6 * box["height"])
    expect(hand.locator("#inspector .rows")).to_have_attribute("data-part", "T1")
    expect(hand.locator("#act-up")).to_be_in_viewport()
    assert shell.evaluate("e => getComputedStyle(e).touchAction") == "none"
    phone.close()
