"""A pump's curve pressed off a picture of it."""

import io
import re

from PIL import Image, ImageDraw
from playwright.sync_api import Page, expect

from bathys_web.plans.models import OwnPump

# In the picture: from 0 to 3,000 L/h and from 0 to 2.4 m, drawn 1,200 by 800.
LEFT, FOOT, RIGHT, TOP = 150, 700, 1050, 100
CURVE = ((0.0, 2.0), (1000.0, 1.75), (2000.0, 1.0), (2600.0, 0.2))


def _spot(flow: float, head: float) -> tuple[float, float]:
    return LEFT + (RIGHT - LEFT) * flow / 3000.0, FOOT - (FOOT - TOP) * head / 2.4


def _picture() -> bytes:
    image = Image.new("RGB", (1200, 800), "white")
    pen = ImageDraw.Draw(image)
    pen.line([(LEFT, TOP), (LEFT, FOOT), (RIGHT, FOOT)], "black", 3)
    pen.line([_spot(*point) for point in CURVE], "navy", 5)
    file = io.BytesIO()
    image.save(file, "PNG")
    return file.getvalue()


def _press(page: Page, x: float, y: float) -> None:
    """Where it is in the picture, however large that is shown."""
    sheet = page.locator("#curve-image")
    box = sheet.bounding_box()
    assert box is not None
    at = {"x": x * box["width"] / 1200.0, "y": y * box["height"] / 800.0}
    page.locator("#curve-sheet").click(position=at)


def test_a_curve_is_pressed_off_a_picture_and_becomes_a_pump(page: Page) -> None:
    """No picture is told so; a press too many is taken back; what an axis reads is asked for; the
    points come out within one part in a hundred of the axes."""
    page.get_by_role("button", name="demo account").click()
    page.goto(page.url.split("/plans/")[0].rstrip("/") + "/parts/")
    page.get_by_text("Read the points off a picture of the curve").click()
    page.locator("#curve-file").set_input_files(
        {"name": "no.png", "mimeType": "image/png", "buffer": b"no picture"}
    )
    expect(page.locator("#curve-next")).to_contain_text("no picture; choose another")
    page.locator("#curve-file").set_input_files(
        {"name": "curve.png", "mimeType": "image/png", "buffer": _picture()}
    )
    expect(page.locator("#curve-next")).to_contain_text("first mark on the flow axis")
    expect(page.locator("#curve-read")).to_be_disabled()
    for spot in (_spot(0.0, 0.0), _spot(3000.0, 0.0), _spot(0.0, 0.0), _spot(0.0, 2.4)):
        _press(page, *spot)
    for point in CURVE:
        _press(page, *_spot(*point))
    _press(page, 600, 400)
    page.locator("#curve-back").click()
    expect(page.locator("#curve-marks path")).to_have_count(8)
    page.locator("#curve-read").click()
    expect(page.locator("#curve-points .row-error").first).to_be_visible()
    for name, text in (
        ("Flow axis, first mark", "0"),
        ("Flow axis, second mark", "3000"),
        ("Lift axis, first mark", "0"),
        ("Lift axis, second mark", "2.4"),
    ):
        page.get_by_label(name).fill(text)
    page.locator("#curve-read").click()
    expect(page.locator("#curve-points")).to_contain_text("look them over")
    lines = page.locator("#pump-points").input_value().splitlines()
    read = [[float(n) for n in re.findall(r"[\d.]+", line)] for line in lines]
    assert len(read) == len(CURVE)
    for (flow, head), (true_flow, true_head) in zip(read, CURVE, strict=True):
        assert abs(flow - true_flow) < 30.0
        assert abs(head - true_head) < 0.024
    page.get_by_label("Name").first.fill("Off a picture")
    page.get_by_label("Power").first.fill("40")
    page.get_by_role("button", name="Add it").first.click()
    expect(page.get_by_role("cell", name="Off a picture", exact=True)).to_be_visible()
    assert len(OwnPump.objects.get().points or ()) == len(CURVE)
