"""What every browser test does with a page."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

__all__ = [
    "EXAMPLES",
    "figure",
    "hold_of",
    "litres",
    "open_demo",
    "open_file",
    "pick",
    "revision",
    "seconds",
    "stroke_point",
]

EXAMPLES = Path(__file__).resolve().parents[2] / "examples"


def open_demo(page: Page) -> None:
    """The demo account at its plan."""
    page.get_by_role("button", name="demo account").click()
    page.get_by_role("link", name="Heron Lane stacked pair", exact=True).click()


def pick(page: Page, part: str) -> None:
    """A part put into the inspector."""
    page.locator(f"#station-{part}").click()
    expect(page.locator("#inspector .rows")).to_have_attribute("data-part", part)


def figure(page: Page, key: str) -> str:
    """A figure at the head of the page, as it is told."""
    return page.locator(f'[data-figure="{key}"] .figure-value').inner_text()


def litres(page: Page) -> float:
    """The pumped flow, L/h."""
    return float(figure(page, "P1.flow").replace(",", "").split()[0])


def seconds(page: Page) -> int:
    """The cycle of the first bed, s."""
    minutes, seconds = re.findall(r"\d+", figure(page, "B1.cycle"))
    return 60 * int(minutes) + int(seconds)


def revision(page: Page, number: int) -> None:
    """The page has come to this revision."""
    expect(page.locator("#base")).to_have_value(str(number))


def open_file(page: Page, name: str) -> None:
    """The demo account at an example, imported."""
    page.get_by_role("button", name="demo account").click()
    page.locator("#plan-file").set_input_files(str(EXAMPLES / f"{name}.json"))
    page.locator("form:has(#plan-file) button[type=submit]").click()
    expect(page.locator("#side-view > svg")).to_be_visible()
    page.wait_for_load_state("load")


def hold_of(page: Page, vessel: str) -> tuple[float, float]:
    """Where a vessel of the side view is taken hold of."""
    handle = page.locator(f'[data-lift="{vessel}"]')
    handle.scroll_into_view_if_needed()
    box = handle.bounding_box()
    assert box is not None
    return box["x"] + 0.5 * box["width"], box["y"] + 0.3 * box["height"]


def stroke_point(page: Page, selector: str) -> tuple[float, float]:
    """A place in the window that lies on the longest stretch of a line of the picture."""
    point: list[float] = page.locator(selector).first.evaluate(
        """line => {
          const matrix = line.getScreenCTM();
          const all = [...line.points].map((p) => new DOMPoint(p.x, p.y).matrixTransform(matrix));
          let best = [0, null];
          for (let i = 1; i < all.length; i += 1) {
            const long = Math.hypot(all[i].x - all[i - 1].x, all[i].y - all[i - 1].y);
            if (long > best[0]) best = [long, [all[i - 1], all[i]]];
          }
          const [a, b] = best[1];
          return [a.x + 0.4 * (b.x - a.x), a.y + 0.4 * (b.y - a.y)];
        }"""
    )
    return point[0], point[1]
