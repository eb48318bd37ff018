"""Refresh docs/screenshots from the demo. Called by ``make shots`` with the address."""

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

SHOTS = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
HELP = Path(__file__).resolve().parent.parent / "src" / "bathys_web" / "static" / "bathys" / "help"
EXAMPLES = Path(__file__).resolve().parent.parent / "examples"
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


def _shoot(page: Page, name: str, full: bool = False) -> None:
    page.wait_for_load_state("networkidle")
    page.screenshot(path=SHOTS / f"{name}.png", full_page=full)


def _shoot_bench(page: Page, name: str) -> None:
    """The bench as a reader would see it, at the top of the window."""
    page.locator("#bench").evaluate("e => e.scrollIntoView()")
    page.wait_for_timeout(300)
    _shoot(page, name)


def _shoot_benches(page: Page) -> None:
    """Benches of the plan that is open, and a power cut while time is played."""
    page.locator("#bench-pump").click()
    page.wait_for_selector("#bench .uplot")
    _shoot_bench(page, "pump-bench")
    page.locator("#bench-levels").click()
    page.wait_for_selector(".sump-cut")
    _shoot_bench(page, "levels-bench")
    page.locator("#bench-hours").click()
    page.wait_for_selector("#bench .uplot")
    page.locator("#play-open").click()
    page.wait_for_selector("#play-bar:not([hidden])")
    page.locator("#play-at").evaluate(
        "e => { e.value = 3000; e.dispatchEvent(new Event('input', {bubbles: true})); }"
    )
    page.locator("#play-plug").click()
    page.wait_for_selector(".steps")
    page.locator("#play-at").evaluate(
        "e => { e.value = 4500; e.dispatchEvent(new Event('input', {bubbles: true})); }"
    )
    page.locator("#side-view").evaluate("e => e.scrollIntoView()")
    _shoot(page, "play")


def _shoot_garden(page: Page) -> None:
    """A plan with all that lives in it: the benches of that."""
    page.locator("#bench-solids").click()
    page.wait_for_selector("#bench .cutaway")
    _shoot_bench(page, "solids-bench")
    page.locator("#bench-water").click()
    page.wait_for_selector("#bench .ribbons")
    _shoot_bench(page, "water-bench")
    page.locator("#bench-air").click()
    page.get_by_text("If something stops").wait_for()
    _shoot_bench(page, "air-bench")
    page.locator(".places").get_by_role("link", name="Build", exact=True).click()
    page.wait_for_selector(".work-steps")
    page.wait_for_load_state("networkidle")
    page.locator(".build-pictures").evaluate("e => e.scrollIntoView()")
    _shoot(page, "build-sheet")
    page.locator(".places").get_by_role("link", name="Ground plan").click()
    page.wait_for_selector("#ground-plan")
    page.locator('[data-foot="S1"]').focus()
    page.keyboard.press("ArrowRight")
    page.wait_for_selector("#ground-x")
    _shoot(page, "ground-plan")


def _shoot_preview_and_dark(page: Page, address: str) -> None:
    """A remedy before it is made, its siphon cut open, and a large plan by night."""
    page.locator(".findings [data-preview]").first.click()
    page.wait_for_selector("#preview-words")
    _shoot(page, "preview")
    page.locator("#bench-siphon").click()
    page.wait_for_selector(".cutaway")
    _shoot_bench(page, "siphon-bench")
    page.goto(address)
    page.emulate_media(color_scheme="dark")
    page.get_by_role("link", name="Glasshouse twelve beds", exact=True).click()
    page.wait_for_selector("#bench .uplot")
    page.locator("#show-grade").check()
    _shoot(page, "twelve-beds-dark")
    page.locator("#show-grade").uncheck()
    page.emulate_media(color_scheme="light")


def _shoot_help(page: Page, address: str) -> None:
    """The pictures of the help pages: small, and of what they speak of."""
    HELP.mkdir(parents=True, exist_ok=True)
    page.set_viewport_size({"width": 1280, "height": 800})

    def take(name: str, high: int) -> None:
        page.wait_for_load_state("networkidle")
        clip = {"x": 0, "y": 0, "width": 1280, "height": high}
        page.screenshot(path=HELP / f"{name}.png", clip=clip)  # type: ignore[arg-type]

    page.goto(address)
    take("plans", 597)
    page.locator("#layouts-title").evaluate("e => e.scrollIntoView()")
    take("layouts", 597)
    page.get_by_role("link", name="Heron Lane stacked pair", exact=True).click()
    page.locator("#station-B1").click()
    page.wait_for_selector("#inspector .rows[data-part='B1']")
    take("design", 800)
    page.goto(f"{address}/parts/")
    take("parts", 800)
    _shoot(page, "parts")
    page.goto(f"{address}/learn/")
    page.get_by_role("button", name="Start the tour").click()
    page.get_by_role("button", name="Next").click()
    page.get_by_role("button", name="Leave the tour").click()
    page.goto(address)
    page.set_input_files("#plan-file", EXAMPLES / "faults" / "hanging-siphon.json")
    page.get_by_role("button", name="Import").click()
    page.locator(".findings [data-preview]").first.click()
    page.wait_for_selector("#preview-words")
    take("remedy", 800)
    page.goto(address)
    page.set_input_files("#plan-file", EXAMPLES / "small-settler.json")
    page.get_by_role("button", name="Import").click()
    page.locator("#bench-solids").click()
    page.wait_for_selector("#bench .cutaway")
    page.locator("#bench h3").first.evaluate("e => e.scrollIntoView()")
    take("settler", 800)


def _shoot_run(page: Page, address: str) -> None:
    """The log of a season on a phone, and what a simulated board reads."""
    page.goto(address)
    page.get_by_role("link", name="Alder Close garden", exact=True).click()
    page.get_by_role("link", name="Run", exact=True).click()
    _shoot(page, "run")
    page.set_viewport_size(DESK)
    page.get_by_role("link", name="What the instruments read").click()
    # The board of the demo sends what it has, and what is expected is worked out meanwhile.
    page.get_by_text("as expected").first.wait_for(timeout=180_000)
    _shoot(page, "instruments")


def main(address: str) -> None:
    """Take every picture once."""
    SHOTS.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_context(viewport=DESK, reduced_motion="reduce").new_page()
        page.goto(address)
        page.get_by_role("button", name="Try it with a demo account").click()
        _shoot(page, "plans", full=True)
        _shoot_help(page, address)
        page.goto(address)
        page.get_by_role("link", name="Heron Lane stacked pair", exact=True).click()
        _shoot(page, "plan")
        page.goto(address)
        page.get_by_role("link", name="Alder Close garden", exact=True).click()
        page.wait_for_selector("#workspace")
        _shoot_garden(page)
        page.goto(address)
        page.set_input_files("#plan-file", EXAMPLES / "twin-sumps.json")
        page.get_by_role("button", name="Import").click()
        page.wait_for_selector("#workspace")
        _shoot_benches(page)
        page.locator("#play-close").click()
        page.locator("#station-R2").click()
        page.wait_for_selector("#inspector .rows[data-part='R2']")
        page.get_by_label("Valve handle").fill("66")
        page.get_by_label("Valve handle").press("Enter")
        page.wait_for_selector(".moved-figures")
        page.get_by_role("link", name="Compare").click()
        _shoot(page, "compare")
        page.goto(address)
        page.set_input_files("#plan-file", EXAMPLES / "faults" / "hanging-siphon.json")
        page.get_by_role("button", name="Import").click()
        _shoot_preview_and_dark(page, address)
        page.goto(address)
        page.get_by_role("link", name="Heron Lane stacked pair", exact=True).click()
        page.set_viewport_size(PHONE)
        _shoot(page, "plan-phone")
        _shoot_run(page, address)
        page.set_viewport_size(DESK)
        page.goto(f"{address}/plans/brief/")
        page.locator("#brief-name").evaluate("e => { e.value = 'Alder Bank split flow' }")
        page.get_by_label("How many").nth(2).fill("1")
        page.get_by_role("button", name="Size it").click()
        page.wait_for_selector(".brief-card", timeout=90_000)
        _shoot(page, "brief")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
