"""A server that answers slowly: what is done meanwhile lands in its order, and nothing is lost.

Requests are held here and let go one by one, so each test says in which order they come.
"""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.steps import open_demo, open_file, pick, revision


class Gate:
    """Holds what matches until it is let through."""

    def __init__(self, page: Page, pattern: str) -> None:
        self._page, self._pattern, self._held = page, re.compile(pattern), list[Route]()
        self._is_open = False
        page.route(self._pattern, self._come)

    def _come(self, route: Route) -> None:
        if self._is_open:
            route.continue_()
        else:
            self._held.append(route)

    def wait_for(self, count: int) -> list[str]:
        """The addresses held, once they are so many."""
        for _ in range(200):
            if len(self._held) >= count:
                break
            self._page.wait_for_timeout(25)
        assert len(self._held) == count
        return [route.request.url for route in self._held]

    def pass_one(self) -> None:
        """Let the first through."""
        self.wait_for_some()
        self._held.pop(0).continue_()

    def wait_for_some(self) -> None:
        """At least one is held."""
        for _ in range(200):
            if self._held:
                return
            self._page.wait_for_timeout(25)
        raise AssertionError(f"nothing came that is {self._pattern.pattern}")

    def open(self) -> None:
        """Let everything through from now on."""
        self._is_open = True
        for route in self._held:
            route.continue_()
        self._held.clear()


def _floor(page: Page) -> str:
    return page.get_by_label("Floor height").input_value()


def test_steps_in_haste_are_as_many_steps(page: Page) -> None:
    """Four presses before the first is answered; two undos pressed as fast."""
    open_demo(page)
    pick(page, "B1")
    before = float(_floor(page))
    gate = Gate(page, r"/change/take/$|/undo/$")
    page.locator("#station-B1").focus()
    for _ in range(4):
        page.keyboard.press("ArrowUp")
    for number in range(2, 6):
        gate.wait_for(1)
        gate.pass_one()
        revision(page, number)
    steps = (float(_floor(page)) - before) / 4
    assert steps > 0
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    gate.open()
    revision(page, 3)
    expect(page.get_by_label("Floor height")).to_have_value(f"{before + 2 * steps:g}")


def test_what_is_looked_at_waits_for_what_was_done(page: Page) -> None:
    """A part and a bench picked while a step is under way show the plan after it."""
    open_demo(page)
    pick(page, "B1")
    expect(page.locator("#bench .facts")).to_be_visible()
    gate = Gate(page, r"/change/take/$")
    page.locator("#act-up").click()
    page.locator("#bench-levels").click()
    page.locator("#station-T1").click()
    gate.pass_one()
    revision(page, 2)
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "T1")
    expect(page.locator("#bench-levels")).to_have_attribute("aria-current", "true")
    expect(page.locator('#inspector .row-form [name="base"]').first).to_have_value("2")


def test_a_bench_that_has_not_come_yet_is_the_one_asked_for_anew(page: Page) -> None:
    """The plan changes while a bench is on its way: that bench comes, of the newer plan."""
    open_demo(page)
    pick(page, "B1")
    expect(page.locator("#bench .facts")).to_be_visible()
    gate = Gate(page, r"/bench/")
    page.locator("#bench-figures").click()
    gate.wait_for(1)
    page.locator("#act-up").click()
    revision(page, 2)
    asked = gate.wait_for(2)
    assert all("/bench/figures/" in address for address in asked)
    gate.open()
    expect(page.locator("#bench-figures")).to_have_attribute("aria-current", "true")
    expect(page.locator("#bench caption").first).to_be_visible()


def test_questions_opened_while_their_bench_is_asked_for_anew_are_answered(page: Page) -> None:
    """Two opened while the new bench is on its way: it comes with all three open and answered."""
    open_file(page, "twin-sumps")
    page.get_by_text("Suitable pumps").click()
    page.get_by_role("button", name="Take it").first.wait_for()
    gate = Gate(page, r"/bench/")
    page.get_by_role("button", name="Take it").first.click()
    revision(page, 2)
    gate.wait_for(1)
    answers = Gate(page, r"/offers/(valves|pumps|gains)/")
    page.get_by_text("Valve settings").click()
    page.get_by_text("How to get more flow").click()
    answers.wait_for(2)
    gate.open()
    answers.wait_for(5)  # two of the old bench, three of the new
    answers.open()
    expect(page.get_by_role("button", name="Set the valves so").first).to_be_visible()
    expect(page.locator("#bench .ask[open] .ask-answer:has(table)")).to_have_count(3)
    page.get_by_role("button", name="Set the valves so").first.click()
    revision(page, 3)


def test_a_press_is_not_lost_to_a_bench_that_comes_meanwhile(page: Page) -> None:
    """The finger is down as the new bench comes: it waits for the finger, then comes."""
    open_demo(page)
    pick(page, "B1")
    before = page.locator("#bench .facts")
    of_the_old = before.inner_text()
    gate = Gate(page, r"/bench/")
    page.locator("#act-up").click()
    gate.wait_for(1)
    question = page.get_by_text("Suitable pumps")
    question.scroll_into_view_if_needed()
    question.hover()
    page.mouse.down()
    with page.expect_response(re.compile("/bench/")):
        gate.pass_one()
    gate.open()
    expect(before).to_have_text(of_the_old, use_inner_text=True)
    page.mouse.up()
    expect(before).not_to_have_text(of_the_old, use_inner_text=True)
    expect(page.locator("#bench .ask[open]")).to_contain_text("Suitable pumps")
    page.get_by_role("button", name="Take it").first.wait_for()


def test_an_offer_outlived_by_its_plan_is_not_taken_unseen(page: Page) -> None:
    """Pressed twice it is one; pressed after a step it was not made for, it says so."""
    open_file(page, "faults/trickling-siphon")
    pick(page, "S1")
    offer = page.locator(".finding .remedies button", has_text="Do it").first
    offer.wait_for()
    gate = Gate(page, r"/take/$|/edit/$")
    pick(page, "T1")
    page.locator("#act-up").click()
    offer.click()
    gate.pass_one()
    revision(page, 2)
    expect(page.locator("#undone")).to_contain_text("“Do it” was not done")
    expect(page.locator(".dynamic")).to_contain_text("empties Fish tank", timeout=20_000)
    page.locator(".finding .remedies button", has_text="Do it").first.dblclick()
    gate.pass_one()
    revision(page, 3)
    page.wait_for_load_state("networkidle")
    gate.open()
    revision(page, 3)
    expect(page.locator("#undone")).to_be_hidden()


@pytest.mark.parametrize("typed", ["abc", "-5"])
def test_a_wrong_entry_is_seen_before_the_page_goes_on(page: Page, typed: str) -> None:
    """Another part is picked before the answer: the box stays, its sentence beside it."""
    open_demo(page)
    pick(page, "T1")
    gate = Gate(page, r"/edit/")
    page.get_by_label("Freeboard").fill(typed)
    page.locator("#station-B1").click()
    gate.pass_one()
    expect(page.locator("#inspector .row-error")).to_be_visible()
    expect(page.get_by_label("Freeboard")).to_have_value(typed)
    expect(page.get_by_label("Freeboard")).to_be_focused()
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "T1")


def test_what_was_typed_stays_when_no_answer_comes(page: Page) -> None:
    """The network fails under an edit while another part is picked: the page says so and stays."""
    open_demo(page)
    pick(page, "T1")
    page.route(re.compile(r"/edit/$"), lambda route: route.abort())
    page.get_by_label("Freeboard").fill("66")
    page.locator("#station-B1").click()
    expect(page.locator("#lost")).to_be_visible()
    expect(page.get_by_label("Freeboard")).to_have_value("66")
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", "T1")


def test_typing_goes_on_while_a_step_is_answered(page: Page) -> None:
    """Half a number typed when the boxes come again: it is still there, and the rest counts."""
    open_demo(page)
    pick(page, "T1")
    gate = Gate(page, r"/change/take/$")
    page.locator("#act-up").click()
    box = page.get_by_label("Freeboard")
    box.click()
    page.keyboard.press("Control+a")
    page.keyboard.type("7")
    gate.pass_one()
    revision(page, 2)
    expect(box).to_have_value("7")
    expect(box).to_be_focused()
    page.keyboard.press("End")
    page.keyboard.type("5")
    page.keyboard.press("Tab")
    revision(page, 3)
    expect(box).to_have_value("75")


def test_half_a_number_left_alone_counts_too(page: Page) -> None:
    """What stood in the box when the boxes came again is sent when it is left."""
    open_demo(page)
    pick(page, "T1")
    gate = Gate(page, r"/change/take/$")
    page.locator("#act-up").click()
    page.get_by_label("Freeboard").fill("80")
    gate.pass_one()
    revision(page, 2)
    page.keyboard.press("Tab")
    revision(page, 3)
    page.reload()
    pick(page, "T1")
    expect(page.get_by_label("Freeboard")).to_have_value("80")
