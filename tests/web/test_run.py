"""The log through its pages."""

import html
import io
import json
import re
import zipfile
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db.models import F
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from icalendar import Calendar
from PIL import Image

from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE


@pytest.fixture
def split(owner: Any) -> SavedPlan:
    """A plan with a pump, beds and a fish tank."""
    path = Path(EXAMPLE).parent / "split-flow.json"
    return create_plan(owner, load_plan(path.read_bytes()), "made for a test")


def _page(browser: Client, saved: SavedPlan) -> str:
    return html.unescape(browser.get(reverse("run", args=[saved.key])).content.decode())


def test_a_bucket_is_two_taps_and_stands_beside_what_is_expected(
    browser: Client, split: SavedPlan
) -> None:
    """What is wrong is told with all kept; sent twice it is there once; deleted it is gone."""
    address = reverse("enter", args=[split.key, "bucket"])
    form = browser.get(address).content.decode()
    part = re.findall(r'name="part" value="(\w+)"', form)[1]
    told = {"part": part, "volume": "10 L", "times": "very <b>long</b>", "entry": str(uuid4())}
    wrong = browser.post(address, told)
    assert wrong.status_code == 422
    assert "&lt;b&gt;long" in wrong.content.decode()
    assert "cannot be read" in wrong.content.decode()
    for _ in range(2):
        sent = browser.post(address, told | {"times": "52.4 53.1 51.9"})
        assert sent.url == reverse("run", args=[split.key])
    entry = LogEntry.objects.get(plan=split)
    assert entry.values["times"] == [52.4, 53.1, 51.9]
    page = _page(browser, split)
    assert "less than planned" in page
    assert "52.4 s, 53.1 s, 51.9 s" in page
    file = browser.get(reverse("log_csv", args=[split.key])).content.decode()
    assert f"bucket,{part},volume,10,L" in file
    browser.post(reverse("delete_entry", args=[split.key, entry.pk]))
    assert not LogEntry.objects.exists()


def test_a_flow_that_falls_tells_when_the_siphon_no_longer_starts(
    browser: Client, split: SavedPlan, owner: Any
) -> None:
    """Twenty litres an hour less each day; a cleaning begins the series anew."""
    now = timezone.now()
    for days in range(12):
        flow = (830.0 - 20.0 * days) / 3.6e6
        LogEntry.objects.create(
            plan=split,
            key=uuid4(),
            kind="bucket",
            part="R5",
            at=now - timedelta(days=11 - days),
            values={"volume": 0.01, "times": [0.01 / flow]},
        )
    page = _page(browser, split)
    (words,) = re.findall(r'run-news"><li>(.*?)</li>', page)
    assert re.search(r"is down 2\d% in 11 days. At this pace \w+ \w+ no longer starts in", words)
    in_days = int(re.findall(r"starts in about (\d+) days", words)[0])
    LogEntry.objects.update(at=F("at") - timedelta(days=4))
    (later,) = re.findall(r"starts in about (\d+) days", _page(browser, split))
    assert int(later) == pytest.approx(in_days - 4, abs=1)  # from today, not from the last bucket
    browser.post(reverse("enter", args=[split.key, "job"]), {"part": "", "job": "strainer-P1"})
    assert "At this pace" not in _page(browser, split)


def test_a_job_that_is_done_is_no_longer_due(browser: Client, split: SavedPlan) -> None:
    old = timezone.now() - timedelta(days=40)
    LogEntry.objects.create(
        plan=split, key=uuid4(), kind="note", at=old, values={"words": "=begun"}
    )
    page = _page(browser, split)
    assert "26 days over" in page
    browser.post(reverse("enter", args=[split.key, "job"]), {"part": "", "job": "strainer-P1"})
    assert "26 days over" not in _page(browser, split)
    file = browser.get(reverse("log_csv", args=[split.key])).content.decode()
    assert ",'=begun," in file


def test_a_part_offers_what_can_be_measured_there(browser: Client, split: SavedPlan) -> None:
    """Chosen already in the form; of a part that has none, all are offered."""
    plan = browser.get(reverse("plan", args=[split.key]), {"part": "P1"}).content.decode()
    address = reverse("run", args=[split.key])
    assert f'href="{address}?part=P1"' in plan
    page = html.unescape(browser.get(address, {"part": "P1"}).content.decode())
    assert page.count("/run/enter/") - page.count('/enter/job/"') == 2
    assert "/run/enter/watts/?part=P1" in page
    assert "/run/enter/lift/?part=P1" in page
    form = browser.get(reverse("enter", args=[split.key, "level"]), {"part": "S1"})
    assert re.search(r'value="S1"[^>]* checked', form.content.decode())
    for other in ("J1", "nowhere"):
        assert (
            "All that can be entered" not in browser.get(address, {"part": other}).content.decode()
        )


def test_a_calendar_reads_the_jobs_by_an_address_that_can_be_taken_back(
    browser: Client, split: SavedPlan
) -> None:
    """By another reader of RFC 5545, signed in as nobody: what was done today comes after its whole
    interval, what is overdue today; an old address never works again."""
    browser.post(reverse("enter", args=[split.key, "job"]), {"part": "", "job": "strainer-P1"})
    make = reverse("calendar_link", args=[split.key])
    browser.post(make, {"share": "yes"})
    (address,) = re.findall(r'value="http://testserver(/calendar/[^"]+)"', _page(browser, split))
    feed = Client().get(address)
    assert feed["Content-Type"].startswith("text/calendar")
    events = {str(e["uid"]): e for e in Calendar.from_ical(feed.content).walk("VEVENT")}
    strainer = events[f"strainer-P1@{split.key}.bathys"]
    assert strainer["dtstart"].dt == timezone.localdate() + timedelta(days=14)
    old = timezone.now() - timedelta(days=400)
    LogEntry.objects.create(plan=split, key=uuid4(), kind="note", at=old, values={"words": "x"})
    later = Calendar.from_ical(Client().get(address).content).walk("VEVENT")
    starts = {e["dtstart"].dt for e in later if "strainer" not in str(e["uid"])}
    assert min(starts) == timezone.localdate()
    browser.post(make, {"share": "no"})
    assert Client().get(address).status_code == 404
    browser.post(make, {"share": "yes"})
    assert Client().get(address).status_code == 404


def test_a_series_has_its_chart_with_what_was_done_meanwhile(
    browser: Client, split: SavedPlan
) -> None:
    now = timezone.now()
    for days, seconds in ((9, 44.0), (5, 46.0), (1, 48.0)):
        LogEntry.objects.create(
            plan=split, key=uuid4(), kind="bucket", part="R5", at=now - timedelta(days=days),
            values={"volume": 0.01, "times": [seconds]}, note=f"<i>{days}",
        )  # fmt: skip
    LogEntry.objects.create(
        plan=split, key=uuid4(), kind="job", at=now - timedelta(days=4),
        values={"job": "strainer-P1"},
    )  # fmt: skip
    address = reverse("log_chart", args=[split.key, "bucket", "R5"])
    assert f'href="{address}"' in _page(browser, split)
    page = browser.get(address).content.decode()
    plot = json.loads(html.unescape(re.findall(r'data-plot="([^"]+)"', page)[0]))
    measured = next(c for c in plot["curves"] if c["label"] == "measured")
    assert measured["ys"] == pytest.approx([36000 / 44.0, 36000 / 46.0, 36000 / 48.0], rel=1e-4)
    assert [s["words"] for s in plot["spots"]] == ["", "", "", "cleaned"]
    assert "&lt;i&gt;9" in page
    # However often water is topped up, what was cleaned stands in the chart, and last: it is named.
    for hours in range(1, 31):
        LogEntry.objects.create(
            plan=split, key=uuid4(), kind="top_up", part="S1", at=now - timedelta(hours=hours),
            values={"volume": 0.01},
        )  # fmt: skip
    page = browser.get(address).content.decode()
    plot = json.loads(html.unescape(re.findall(r'data-plot="([^"]+)"', page)[0]))
    said = [s["words"] for s in plot["spots"] if s["words"]]
    assert said[-1] == "cleaned"
    assert set(said[:-1]) == {"topped up"}
    for kind, part in (("bucket", "R99"), ("dance", "R5")):
        assert browser.get(reverse("log_chart", args=[split.key, kind, part])).status_code == 404


def _picture(wide: int, tall: int, **more: Any) -> bytes:
    file = io.BytesIO()
    Image.effect_noise((wide, tall), 60).convert("RGB").save(file, "JPEG", **more)
    return file.getvalue()


def test_a_photo_is_made_small_and_upright_and_tells_no_place(
    browser: Client, split: SavedPlan
) -> None:
    """As a phone takes it: lying, with its place in it. What is no picture, or one that would fill
    the memory, is a sentence, with what was typed kept."""
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by a quarter
    exif.get_ifd(0x8825)[2] = (52.0, 30.0, 0.0)
    address = reverse("enter", args=[split.key, "note"])
    taken = SimpleUploadedFile("p.jpg", _picture(2400, 1200, exif=exif), "image/jpeg")
    assert browser.post(address, {"part": "", "words": "x", "photo": taken}).status_code == 302
    entry = LogEntry.objects.get(plan=split)
    page = _page(browser, split)
    assert reverse("entry_photo", args=[split.key, entry.pk]) in page
    answer = browser.get(reverse("entry_photo", args=[split.key, entry.pk]))
    kept = Image.open(io.BytesIO(answer.content))
    assert kept.size == (640, 1280)
    assert not kept.getexif()
    assert b"GPS" not in answer.content
    bomb = io.BytesIO()
    Image.new("1", (30000, 30000)).save(bomb, "PNG")
    for wrong in (b"no picture", bomb.getvalue(), _picture(50, 50)[:200], b""):
        file = SimpleUploadedFile("p.jpg", wrong, "image/jpeg")
        refused = browser.post(address, {"part": "", "words": "kept <b>", "photo": file})
        assert refused.status_code == 422
        assert "kept &lt;b&gt;" in refused.content.decode()
    archive = zipfile.ZipFile(io.BytesIO(browser.get(reverse("own_data")).content))
    assert any(n.endswith(f"photos/{entry.key}.jpg") for n in archive.namelist())


def test_feed_is_counted_in_spoons_that_were_weighed(browser: Client, owner: Any) -> None:
    """The last weighing counts; before the first, it is asked for."""
    path = Path(EXAMPLE).parent / "raft-line.json"
    saved = create_plan(owner, load_plan(path.read_bytes()), "made for a test")
    fish = plan_of(saved.current).fish[0].id
    feed, spoon = (reverse("enter", args=[saved.key, kind]) for kind in ("feed", "spoon"))
    asked = browser.post(feed, {"part": fish, "spoons": "4"})
    assert "Weigh a spoon" in asked.content.decode()
    for mass in ("100 g", "120 g"):
        browser.post(spoon, {"part": fish, "count": "10", "mass": mass})
    browser.post(feed, {"part": fish, "spoons": "4", "eaten": "55"})
    entry = LogEntry.objects.get(kind="feed")
    assert entry.values["mass"] == pytest.approx(0.048)


def test_the_season_so_far_is_told_by_what_was_entered(browser: Client, owner: Any) -> None:
    """Names that people type are letters, also with braces in them."""
    path = Path(EXAMPLE).parent / "raft-line.json"
    saved = create_plan(owner, load_plan(path.read_bytes()), "made for a test")
    plan = plan_of(saved.current)
    assert "The season so far" not in _page(browser, saved)
    bed = next(v.id for v in plan.vessels if v.use.has_rafts)
    for kind, told in (
        ("feed", {"part": plan.fish[0].id, "mass": "400 g"}),
        ("harvest", {"part": bed, "what": "{x:words} <b>", "count": "12", "mass": "3 kg"}),
        ("top_up", {"part": plan.pumps[0].stands_in, "volume": "60 L"}),
    ):
        assert browser.post(reverse("enter", args=[saved.key, kind]), told).status_code == 302
    page = _page(browser, saved).partition("The season so far")[2].partition("</ul>")[0]
    assert "0.4 kg of feed given" in page
    assert "{x:words} <b>: 12 heads, 3 kg harvested." in page
    assert "60 L topped up" in page
    assert "kWh" in page


def test_what_is_to_come_or_is_no_kind_is_refused(browser: Client, split: SavedPlan) -> None:
    address = reverse("enter", args=[split.key, "note"])
    for at, words in (("2999-01-01T10:00", "still to come"), ("soon", "Write date")):
        answer = browser.post(address, {"part": "", "words": "x", "at": at})
        assert answer.status_code == 422
        assert words in answer.content.decode()
    assert browser.get(reverse("enter", args=[split.key, "dance"])).status_code == 404
    assert browser.get(reverse("enter", args=[split.key, "feed"])).status_code == 404  # no fish
    fine = browser.post(address, {"part": "", "words": "x", "at": "2026-01-02T10:00", "entry": "?"})
    assert fine.status_code == 302


def test_a_sheet_for_whoever_looks_after_it_has_each_days_jobs(
    browser: Client, split: SavedPlan
) -> None:
    """From the day on that was asked for; days that cannot be are told beside their box."""
    address = reverse("away", args=[split.key])
    first = timezone.localdate() + timedelta(days=2)
    asked = {"first": first.isoformat(), "last": (first + timedelta(days=20)).isoformat()}
    page = browser.get(address, {**asked, "who": "<b>Ada</b>"}).content.decode()
    assert "&lt;b&gt;Ada" in page
    assert "Clean the intake" in page
    assert "under the rim" in page
    assert page.count("Top up Sump") > 3
    wrong = (
        ({"first": "soon"}, "Write a day"),
        ({"first": "2001-01-01"}, "is over"),
        ({**asked, "last": "2001-01-01"}, "from the first on"),
        ({**asked, "last": "2999-01-01"}, "within 60 days"),
        ({"first": "2026-02-31"}, "Write a day"),
    )
    for typed, words in wrong:
        answer = browser.get(address, typed)
        assert answer.status_code == 422
        assert words in answer.content.decode()


def test_the_first_season_has_dates_once_its_day_is_told(saved: SavedPlan, browser: Client) -> None:
    address = reverse("first_season", args=[saved.key])
    assert "day 2" in browser.get(address).content.decode()
    wrong = browser.post(address, {"day": "next spring"})
    assert wrong.status_code == 422
    assert "Write a day such as" in wrong.content.decode()
    assert "next spring" in wrong.content.decode()
    assert browser.post(address, {"day": "1830-01-01"}).status_code == 422
    file = reverse("first_season_ics", args=[saved.key])
    assert browser.get(file).status_code == 302
    day = timezone.localdate() + timedelta(days=10)
    assert browser.post(address, {"day": day.isoformat()}).status_code == 302
    page = browser.get(address).content.decode()
    assert f"{(day + timedelta(days=2)):%Y}" in page
    assert "Pull the plug once" in page
    assert browser.get(file)["Content-Type"].startswith("text/calendar")
    browser.post(address, {"day": ""})
    assert "Tell the day" in browser.get(address).content.decode()


def test_a_scanned_label_leads_to_what_is_written_down_at_its_part(
    browser: Client, split: SavedPlan
) -> None:
    address = reverse("plan", args=[split.key])
    scanned = browser.get(address, {"part": "P1", "of": "1"}).content.decode()
    assert "Write down here" in scanned
    for kind, is_there in (("watts", True), ("lift", True), ("bucket", False), ("job", False)):
        assert (f"{reverse('enter', args=[split.key, kind])}?part=P1" in scanned) == is_there
    for other in ({"part": "P1"}, {"part": "nothing", "of": "1"}, {"of": "1"}):
        assert "Write down here" not in browser.get(address, other).content.decode()


def _tested(saved: SavedPlan, days: float, **figures: float) -> None:
    at = timezone.now() - timedelta(days=days)
    LogEntry.objects.create(plan=saved, key=uuid4(), kind="water", part="T1", at=at, values=figures)


def test_water_tests_are_a_chart_and_tell_how_far_bacteria_have_come(
    browser: Client, split: SavedPlan
) -> None:
    """One test is no chart; then each stage in its words, to the day it is high again."""
    chart = reverse("water_chart", args=[split.key, "T1"])
    _tested(split, 30, ammonia=3.0, nitrite=0.1)
    assert browser.get(chart).status_code == 404
    assert "chart of" not in _page(browser, split)
    for days, figures, words in (
        (22, {"ammonia": 0.2, "nitrite": 4.0, "nitrate": 4.0}, "Nitrite is not turned over yet"),
        (9, {"ammonia": 0.1, "nitrite": 0.2, "nitrate": 30.0}, "Test again tomorrow"),
        (6, {"ammonia": 0.1, "nitrite": 0.1, "nitrate": 40.0}, "bacteria turn over all"),
        (1, {"ammonia": 0.1, "nitrite": 2.0, "ph": 6.8}, "high again"),
    ):
        _tested(split, days, **figures)
        page = browser.get(chart).content.decode()
        assert words in html.unescape(page)
        assert words in _page(browser, split)
    plots = [json.loads(html.unescape(p)) for p in re.findall(r'data-plot="([^"]+)"', page)]
    assert [[c["label"] for c in plot["curves"]] for plot in plots] == [
        ["ammonia", "nitrite"],
        ["nitrate"],
    ]
    assert plots[0]["curves"][1]["ys"] == [0.1, 4.0, 0.2, 0.1, 2.0]
    assert plots[1]["curves"][0]["xs"] == pytest.approx([-22.0, -9.0, -6.0], abs=0.01)
    assert "chart of 5" in _page(browser, split)
    assert "40 mg/L" in page
    assert browser.get(chart.replace("T1", "P1")).status_code == 404
