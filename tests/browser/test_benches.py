"""Benches as they are worked on: sliders, boxes and what is built from them."""

import re

from playwright.sync_api import Page, expect

from tests.browser.steps import open_file, revision


def test_a_siphon_is_tried_by_slider_and_box_and_built(page: Page) -> None:
    """The slider one step by key, a typed fall, a wider pipe, a wrong entry; built in one press,
    undone in another."""
    open_file(page, "split-flow")
    page.locator("#bench-siphon").click()
    slider, typed = page.locator("#variant-fall"), page.get_by_label("Tail falls, typed")
    result = page.locator("#variant-result")
    expect(result).to_contain_text("This is how it is now.")
    before = result.locator("b").nth(2).inner_text()
    slider.focus()
    page.keyboard.press("ArrowRight")
    expect(typed).to_have_value("560")
    expect(result).to_contain_text("Build it so")
    assert result.locator("b").nth(2).inner_text() != before
    typed.fill("20 in")
    typed.press("Enter")
    expect(typed).to_have_value("508")
    expect(slider).to_have_value("0.51")
    page.get_by_label("Standpipe and tail").select_option("1 1/2 in")
    expect(result).to_contain_text("It never starts")
    expect(result.locator("[name=built]")).to_have_value("1 1/2 in|0.5080|2|0|")
    typed.fill("deep")
    typed.press("Enter")
    expect(result.get_by_role("alert")).to_contain_text("deep")
    typed.fill("50 cm")
    typed.press("Tab")
    expect(typed).to_have_value("500")
    page.get_by_label("Standpipe and tail").select_option("1 in")
    page.get_by_label("air tube from").check()
    expect(result.locator("[name=built]")).to_have_value("1 in|0.5000|2|1|")
    expect(result).to_contain_text("room to spare on both sides")
    result.get_by_role("button", name="Preview").click()
    expect(page.locator("#preview-words")).to_contain_text("tail falls 500 mm, with an air tube")
    result.get_by_role("button", name="Build it so").click()
    revision(page, 2)
    expect(page.locator("#moved")).to_contain_text("tail falls 500 mm, with an air tube")
    expect(result).to_contain_text("This is how it is now.")
    page.locator("#undo").click()
    revision(page, 1)
    expect(typed).to_have_value("550")


def test_a_settler_is_built_from_a_bench_that_was_opened_by_its_address(page: Page) -> None:
    """There is no plan beside it to repaint, nor a picture to preview over: the plan is shown,
    with the container measured and built. A size that cannot be read stays as it was typed."""
    open_file(page, "faults/fast-settler")
    expect(page.locator("#findings")).to_contain_text("rises at 5.19 mm/s")
    page.goto(page.url.split("?")[0] + "bench/solids/")
    expect(page.get_by_text("Fish tank the water falls 247 mm")).to_be_visible()
    expect(page.locator(".ladder")).to_contain_text("5.19 mm/s, 12.3 in/min")
    page.get_by_text("Other settlers from common containers").click()
    answer = page.locator(".ask-answer").last
    answer.get_by_label("Diameter or length").fill("60 cm")
    answer.get_by_label("Height", exact=True).fill("tall")
    answer.get_by_role("button", name="Show them").click()
    expect(answer.get_by_text("“tall” cannot be read")).to_be_visible()
    expect(answer.get_by_label("Diameter or length")).to_have_value("60 cm")
    answer.get_by_label("Height", exact=True).fill("90 cm")
    answer.get_by_label("List first").select_option("size")
    answer.get_by_role("button", name="Show them").click()
    expect(answer.locator("tbody tr").first).to_contain_text("Your container")
    expect(answer.get_by_role("button", name="Preview")).to_have_count(0)
    answer.get_by_role("button", name="Build it").first.click()
    revision(page, 2)
    expect(page.locator("#findings")).not_to_contain_text("rises at")


def test_charts_of_an_answer_are_drawn_on_a_bench_that_stands_alone(page: Page) -> None:
    """They come while their leaf still says that it waits, and are drawn once they are seen."""
    open_file(page, "raft-line")
    page.goto(page.url.split("?")[0] + "bench/water/")
    for words, charts in (("Starting it up without fish", 1), ("The fish through a season", 4)):
        leaf = page.locator("details.ask", has_text=words)
        leaf.locator("summary").click()
        expect(leaf.locator(".plot canvas")).to_have_count(charts)
    expect(page.get_by_text("The other school begins with a few fish")).to_be_visible()
    expect(page.locator(".ribbons text", has_text="made of feed")).to_have_count(0)
    page.goto(page.url.replace("bench/water/", "bench/air/"))
    page.get_by_text("Air valves, set for the air wanted").click()
    page.get_by_role("button", name="Set them so").click()
    revision(page, 2)
    air = page.get_by_label("air", exact=True)
    expect(page.locator("#side-view .air-line").first).to_be_visible()
    air.uncheck()
    expect(page.locator("#side-view .air-line").first).to_be_hidden()


def test_what_is_opened_by_its_own_address_comes_by_itself_and_leads_on(page: Page) -> None:
    """A sheet that is still being set appears without a press; a part on a bench leads to the
    plan."""
    open_file(page, "stacked-pair")
    address = page.url.split("?")[0]
    page.goto(f"{address}build/paper/A4/")
    expect(page.get_by_role("link", name="Download the PDF")).to_be_visible(timeout=90_000)
    page.goto(f"{address}bench/figures/")
    page.locator("#bench .part-link").first.click()
    page.wait_for_url(re.compile(r"\?part="))
    expect(page.locator("#inspector")).to_be_visible()
