"""The report of a season: what the log says, on page, spreadsheet and paper alike."""

import io
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import openpyxl
import pypdfium2
import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.demo_season import write_season
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import assessment_of
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def running(owner: Any) -> SavedPlan:
    """A plan with a season of log."""
    plan = load_plan((Path(EXAMPLE).parent / "fish-and-leaves.json").read_bytes())
    saved = create_plan(owner, plan, "made for a test")
    write_season(saved, assessment_of(saved.current).evaluation, timezone.now())
    return saved


def _enter(saved: SavedPlan, kind: str, part: str, **values: Any) -> None:
    at = timezone.now() - timedelta(hours=1)
    LogEntry.objects.create(plan=saved, key=uuid4(), kind=kind, part=part, at=at, values=values)


def test_the_same_figures_stand_on_page_and_spreadsheet(
    running: SavedPlan, browser: Client
) -> None:
    """Sums by hand out of the log: feed, harvest and its worth, money spent."""
    log = LogEntry.objects.filter(plan=running)
    worth = sum(e.values["value"] for e in log if e.kind == "harvest")
    lettuce = sum(
        e.values["mass"] for e in log if e.kind == "harvest" and e.values["what"] == "lettuce"
    )
    page = browser.get(reverse("season_report", args=[running.key])).content.decode()
    for words in ("What it took", "Water tests", "Measured beside the plan", "lettuce"):
        assert words in page
    assert f"{worth:.2f} €" in page or f"{worth:,.2f}" in page
    answer = browser.get(reverse("season_report_xlsx", args=[running.key]))
    book = openpyxl.load_workbook(io.BytesIO(answer.content))
    rows = {row[0].value: row for row in book["Harvest"].iter_rows()}
    assert rows["lettuce"][2].value == pytest.approx(lettuce, rel=1e-5)
    spent = {row[0].value: row[2].value for row in book["What it took"].iter_rows()}
    assert spent["feed"] == pytest.approx(62.0)
    assert spent["fish"] == pytest.approx(84.0)


def test_the_pdf_says_the_same(running: SavedPlan, browser: Client) -> None:
    address = reverse("season_report_paper", args=[running.key, "A4"])
    browser.post(address, headers={"HX-Request": "true"})
    answer = browser.get(reverse("season_report_pdf", args=[running.key, "A4"]))
    assert answer["Content-Type"] == "application/pdf"
    pdf = pypdfium2.PdfDocument(answer.content)
    text = " ".join(pdf[n].get_textpage().get_text_bounded() for n in range(len(pdf)))
    for words in ("Season of Alder Close garden", "lettuce", "Water tests", "for each kilogram"):
        assert words in text


def test_an_empty_log_has_no_report_and_says_so(saved: SavedPlan, browser: Client) -> None:
    page = browser.get(reverse("season_report", args=[saved.key])).content.decode()
    assert "Nothing is in the log yet" in page
    assert browser.get(reverse("season_report_xlsx", args=[saved.key])).status_code == 404


def test_what_was_typed_is_data(saved: SavedPlan, browser: Client) -> None:
    _enter(saved, "cost", "", what="=1+1 <b>{x}</b>", value=3.0)
    _enter(saved, "hours", "", time=5400.0)
    page = browser.get(reverse("season_report", args=[saved.key])).content.decode()
    assert "&lt;b&gt;{x}" in page
    assert "1.5 h" in page
    book = openpyxl.load_workbook(
        io.BytesIO(browser.get(reverse("season_report_xlsx", args=[saved.key])).content)
    )
    cells = [c.value for row in book["What it took"].iter_rows() for c in row]
    assert all(not str(c).startswith("=1") for c in cells)


def test_the_season_of_the_demo_reads_as_one(running: SavedPlan, browser: Client) -> None:
    page = browser.get(reverse("run", args=[running.key])).content.decode()
    assert "All that Pump delivers is down" in page
    assert "kg of feed for each kilogram" in page
    assert "91 days over" not in page
