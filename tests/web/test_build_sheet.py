"""The build sheet: a page, a PDF at true scale, and files; none while a problem stands."""

import html
import io
import re
from typing import Any

import numpy as np
import openpyxl
import pypdfium2
import pytest
from django.test import Client
from django.urls import reverse

from bathys.engine import engine_name
from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.tick_step import steps_done
from bathys_web.plans.models import AsDesigned, SavedPlan
from tests.conftest import EXAMPLE

HTMX = {"HX-Request": "true"}
_POINTS = 72.0 / 25.4  # of a millimetre


def _saved(owner: Any, name: str) -> SavedPlan:
    plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
    return create_plan(owner, plan, "made for a test")


def _pdf(browser: Client, saved: SavedPlan, paper: str) -> pypdfium2.PdfDocument:
    address = reverse("build_paper", args=[saved.key, paper])
    ready = browser.post(address, headers=HTMX).content.decode()
    link = re.search(r'href="([^"]+/file/[^"]*)"', ready)
    assert link is not None, ready
    file = browser.get(html.unescape(link[1]))
    assert file["Content-Type"] == "application/pdf"
    return pypdfium2.PdfDocument(file.content)


def test_the_page_tells_every_size_and_keeps_ticks(browser: Client, owner: Any) -> None:
    """Tables from bases to the first day; a tick is kept with the plan, and taken off."""
    saved = _saved(owner, "raft-line")
    address = reverse("build", args=[saved.key])
    page = browser.get(address).content.decode()
    for words in (
        "Levels and bases",
        "Holes in vessels",
        "Marks to paint",
        "What to buy",
        "First day",
    ):
        assert words in page
    assert "Never under" in page
    assert "dug in" in page
    assert steps_done(saved) == []
    tick = reverse("tick_step", args=[saved.key])
    step = browser.post(tick, {"step": "drill", "done": "1"}, headers=HTMX).content.decode()
    assert 'aria-checked="true"' in step
    assert steps_done(saved) == ["drill"]
    assert browser.get(address).content.decode().count('aria-checked="true"') == 1
    browser.post(tick, {"step": "drill", "done": ""}, headers=HTMX)
    assert steps_done(saved) == []
    assert browser.post(tick, {"step": "fly", "done": "1"}).status_code == 404
    wrong = browser.get(address, {"stock": "<i>long</i>"}).content.decode()
    assert "&lt;i&gt;long&lt;/i&gt;” cannot be read" in wrong


def test_holes_are_chosen_in_one_list(browser: Client, owner: Any) -> None:
    """Taken as usual at first, and marked; kept at once; what cannot be drilled is told beside its
    box with all that was typed, and nothing is kept."""
    saved = _saved(owner, "split-flow")
    sheet, address = (reverse(name, args=[saved.key]) for name in ("build", "holes"))
    assert "holes to choose" in browser.get(sheet).content.decode()
    page = browser.get(address).content.decode()
    boxes = dict(re.findall(r'name="(across:[^"]+)" value="([^"]+)"', page))
    typed = {"base": "1", **boxes}
    for key in (box.removeprefix("across:") for box in boxes):
        typed |= {f"fitting:{key}": "grommet", f"side:{key}": "near"}
    first, *_ = boxes
    wrong = browser.post(address, {**typed, first: "<b>9</b> m"})
    assert wrong.status_code == 422
    assert "&lt;b&gt;9&lt;/b&gt; m" in wrong.content.decode()
    wide = browser.post(address, {**typed, first: "9 m"}).content.decode()
    assert "This side is" in wide
    assert 'value="9 m"' in wide
    saved.refresh_from_db()
    assert saved.current.number == 1
    drill = first.replace("across", "drill")
    small = browser.post(address, {**typed, drill: "3 mm"}).content.decode()
    assert "at least" in small
    assert 'value="3 mm"' in small
    kept = browser.post(address, {**typed, first: "40 cm", drill: "81 mm"})
    assert kept.status_code == 302
    assert 'value="81 mm"' in browser.get(address).content.decode()
    page = browser.get(address).content.decode()
    assert "All holes are chosen" in page
    assert 'value="400 mm"' in page
    sheet_now = browser.get(sheet).content.decode()
    assert "holes to choose" not in sheet_now
    assert "near side *" not in sheet_now
    assert browser.post(address, {**typed, "base": "1"}).status_code == 409


def test_no_sheet_is_made_while_a_problem_stands(browser: Client, owner: Any) -> None:
    """In no form; acknowledged by its name it is made, and says so."""
    saved = _saved(owner, "faults/slit-outlet")
    address = reverse("build", args=[saved.key])
    page = browser.get(address).content.decode()
    assert "Solve these first" in page
    assert "Order of work" not in page
    name = re.search(r'name="ack" value="([^"]+)"', page)
    assert name is not None
    assert name[1] == "D4.C1"
    for kind in ("xlsx", "csv", "ground.dxf", "templates.dxf", "pumped.inp"):
        answer = browser.get(reverse("build_file", args=[saved.key, kind]))
        assert answer.status_code == 302, kind
    paper = reverse("build_paper", args=[saved.key, "A4"])
    assert browser.post(paper, headers=HTMX).status_code == 302
    assert browser.get(f"{paper}file/").status_code == 302
    acknowledged = browser.get(address, {"ack": name[1]}).content.decode()
    assert "Built although" in acknowledged
    assert "D4.C1" in acknowledged
    file = browser.get(reverse("build_file", args=[saved.key, "xlsx"]), {"ack": name[1]})
    assert openpyxl.load_workbook(io.BytesIO(file.content)).sheetnames[0].startswith("Levels")
    assert browser.get(address, {"ack": "D4.T1"}).content.decode().count("Solve these first") == 1


@pytest.mark.parametrize(("paper", "size"), [("A4", (210.0, 297.0)), ("Letter", (215.9, 279.4))])
def test_the_pdf_is_at_true_scale_and_stamped(
    browser: Client, owner: Any, paper: str, size: tuple[float, float]
) -> None:
    """Each page has the paper's size and carries plan, revision and engine; on the templates 100 mm
    are 100 mm to 0.2 mm, and so is the piece."""
    saved = _saved(owner, "two-pump-timed")
    document = _pdf(browser, saved, paper)
    assert document[0].get_size() == pytest.approx([s * _POINTS for s in size], abs=0.6)
    texts = [page.get_textpage().get_text_range() for page in document]
    assert all("revision 1 of" in t and "engine" in t for t in texts)
    assert "Order of work" in "".join(texts)
    assert "Without codes" in "".join(texts)  # no public address is told
    strips = [n for n, t in enumerate(texts) if "Template:" in t]
    assert strips
    for number in strips:
        image = document[number].render(scale=8.0).to_numpy()
        dark = image[:, :, :3].max(axis=2) < 60
        runs = [_longest(row) for row in dark]
        assert max(runs) / 8.0 / _POINTS == pytest.approx(100.0, abs=0.2)


def _longest(row: Any) -> int:
    """Longest stretch of dark pixels in a row, but for the edge of a strip, which is wider."""
    ends = np.flatnonzero(np.diff(np.concatenate(([0], row.astype(int), [0]))))
    lengths = ends[1::2] - ends[::2]
    return int(max(lengths[lengths < 0.62 * len(row)], default=0))


def test_a_label_of_an_older_revision_says_so(browser: Client, owner: Any, settings: Any) -> None:
    """Codes are made where the public address is told; scanned, the page knows its revision."""
    saved = _saved(owner, "raft-line")
    settings.PUBLIC_URL = "http://192.0.2.7:8000"
    with_codes = "".join(p.get_textpage().get_text_range() for p in _pdf(browser, saved, "A4"))
    assert "A phone that reads the code" in with_codes
    address = reverse("plan", args=[saved.key])
    assert (
        "This label is of" not in browser.get(address, {"part": "T1", "of": "1"}).content.decode()
    )
    browser.post(
        reverse("edit", args=[saved.key]),
        {"base": 1, "part": "T1", "path": "vessels.T1.floor_height", "text": "460"},
    )
    page = browser.get(address, {"part": "T1", "of": "1"}).content.decode()
    assert "This label is of revision 1" in page
    for odd in ("", "0", "-3", "x", "99999999999999999999"):
        assert browser.get(address, {"of": odd}).status_code == 200


def test_files_are_of_this_revision_and_unknown_ones_are_none(browser: Client, owner: Any) -> None:
    saved = _saved(owner, "split-flow")
    for kind, begins in (
        ("xlsx", b"PK"),
        ("ground.dxf", b"  0"),
        ("templates.dxf", b"  0"),
        ("pumped.inp", b"[TITLE]"),
    ):
        file = browser.get(reverse("build_file", args=[saved.key, kind]))
        assert file.content.startswith(begins), kind
        assert "-r1-" in file["Content-Disposition"]
    csv = browser.get(reverse("build_file", args=[saved.key, "csv"]), {"table": "holes"})
    assert csv.content.decode().startswith("Vessel,For,Side,From its left")
    for kind, asked in (("csv", {"table": "none"}), ("csv", {}), ("exe", {})):
        answer = browser.get(reverse("build_file", args=[saved.key, kind]), asked)
        assert answer.status_code == 404
    assert browser.get(reverse("build_paper", args=[saved.key, "A0"])).status_code == 404


def test_what_is_drilled_already_is_told_once_building_has_begun(
    browser: Client, owner: Any
) -> None:
    """A raised settler moves its base and holes, and nothing of the others; taken back, nothing is
    told any more."""
    saved = _saved(owner, "raft-line")
    address = reverse("build", args=[saved.key])
    assert "Not begun yet" in browser.get(address).content.decode()
    browser.post(reverse("begin_building", args=[saved.key]), {"begins": "1"})
    assert (
        "Nothing that is dug, drilled or cut has changed" in browser.get(address).content.decode()
    )
    floor = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes()).vessel("C1").floor_height
    browser.post(
        reverse("edit", args=[saved.key]),
        {"base": 1, "part": "C1", "path": "vessels.C1.floor_height", "text": f"{floor + 0.01} m"},
    )
    page = browser.get(address).content.decode()
    told = page.partition("Changed since building began")[2].partition("</table>")[0]
    assert "Built by revision 1" in page
    assert "C1 Clarifier" in told
    assert f"{1000.0 * floor:,.0f} mm" in told
    assert f"{1000.0 * floor + 10.0:,.0f} mm" in told
    assert "G2 Raft two" not in told
    browser.post(reverse("begin_building", args=[saved.key]), {"begins": ""})
    assert "Not begun yet" in browser.get(address).content.decode()


def test_a_newer_engine_that_moves_a_hole_is_told(browser: Client, owner: Any) -> None:
    """What was told when building began is kept: told otherwise now, it stands on both pages;
    by the same engine nothing is told."""
    saved = _saved(owner, "raft-line")
    page, sheet = reverse("plan", args=[saved.key]), reverse("build", args=[saved.key])
    browser.post(reverse("begin_building", args=[saved.key]), {"begins": "1"})
    assert "works some of what you build out otherwise" not in browser.get(page).content.decode()
    begun = AsDesigned.objects.get(plan=saved)
    assert begun.engine == engine_name()
    holes = begun.rows["Holes in vessels: their middles"]
    name = next(iter(holes))
    holes[name] = ["as it was told then"]
    begun.engine = "an older one"
    begun.save()
    assert "works some of what you build out otherwise" in browser.get(page).content.decode()
    told = browser.get(sheet).content.decode().partition("Worked out otherwise now")[2]
    assert "as it was told then" in told.partition("</table>")[0]


def test_stands_are_made_up_of_blocks_at_hand(browser: Client, owner: Any) -> None:
    """Typed in any unit; what cannot be read is told with what was typed."""
    saved = _saved(owner, "split-flow")
    address = reverse("stands", args=[saved.key])
    wrong = browser.post(address, {"base": 1, "blocks": "10 cm; <b>"})
    assert wrong.status_code == 422
    assert 'value="10 cm; &lt;b&gt;"' in wrong.content.decode()
    assert browser.post(address, {"base": 1, "blocks": "10 cm; 6 in"}).status_code == 302
    page = browser.get(address).content.decode()
    assert "152 mm" in page
    assert "Packed over them" in page
    sheet = browser.get(reverse("build", args=[saved.key])).content.decode()
    assert "what each leg is made up of" in sheet
