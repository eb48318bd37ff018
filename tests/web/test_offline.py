"""What a device without signal sends once it has it."""

import base64
import io
import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from bathys.plan import load_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import LogEntry, LogPhoto, SavedPlan
from tests.conftest import EXAMPLE


@pytest.fixture
def split(owner: Any) -> SavedPlan:
    """A plan with a pump, beds and a fish tank."""
    path = Path(EXAMPLE).parent / "split-flow.json"
    return create_plan(owner, load_plan(path.read_bytes()), "made for a test")


def _row(at: datetime, kind: str = "note", **more: Any) -> dict[str, Any]:
    typed = more.pop("typed", {"words": "dry"})
    return {"key": str(uuid4()), "kind": kind, "typed": typed, "at": at.timestamp(), **more}


def _send(
    browser: Client, saved: SavedPlan, rows: list[Any], now: datetime | None = None
) -> dict[str, Any]:
    data = {"entries": rows, "now": (now or timezone.now()).timestamp()}
    answer = browser.post(
        reverse("send_entries", args=[saved.key]), json.dumps(data), content_type="application/json"
    )
    assert answer.status_code == 200
    found: dict[str, Any] = answer.json()
    return found


def _states(answer: dict[str, Any]) -> list[str]:
    return [row["state"] for row in answer["received"]]


def test_each_arrives_once_in_its_order_with_the_units_it_was_typed_in(
    browser: Client, split: SavedPlan
) -> None:
    """Sent again, and by a second device later, none is there twice; what was typed in gallons is
    gallons, whatever the reader's units are by then."""
    now = timezone.now()
    rows = [_row(now - timedelta(days=3, minutes=n), typed={"words": f"n{n}"}) for n in range(3)]
    bucket = {"volume": "2", "times": "43.1 43.6"}
    rows.append(_row(now, "bucket", part="R5", typed=bucket, units="us/length"))
    assert _states(_send(browser, split, rows)) == ["kept"] * 4
    assert _states(_send(browser, split, rows)) == ["known"] * 4
    entries = list(LogEntry.objects.filter(plan=split))
    assert [e.values.get("words", "") for e in entries] == ["", "n0", "n1", "n2"]
    assert entries[0].values["volume"] == pytest.approx(2 * 3.785411784e-3)
    other = _row(now - timedelta(minutes=4), "bucket", part="R5", typed=bucket, units="us")
    (told,) = _send(browser, split, [other])["received"][0]["told"]
    assert "the same already" in told


def test_what_cannot_be_kept_says_why_and_the_rest_is_kept(
    browser: Client, split: SavedPlan
) -> None:
    now = timezone.now()
    junk: list[Any] = [
        3, {}, {"key": "x"}, _row(now) | {"at": "noon"}, _row(now) | {"more": 1},
        _row(now) | {"units": "<b>"}, _row(now) | {"note": "n" * 301},
    ]  # fmt: skip
    wrong = [
        _row(now, "dance"),
        _row(now, "bucket", part="R5", typed={"volume": "10 L", "times": "0"}),
        _row(now + timedelta(days=2)),
        _row(now - timedelta(days=9000)),
        _row(now, typed={}),
    ]
    answer = _send(browser, split, [*junk, *wrong, _row(now)])
    assert _states(answer) == ["refused"] * (len(junk) + len(wrong)) + ["kept"]
    words = [next(iter(row["errors"].items())) for row in answer["received"][len(junk) : -1]]
    assert [field for field, _ in words] == ["", "times", "at", "at", "words"]
    assert "0.5 s" in words[1][1]
    address = reverse("send_entries", args=[split.key])
    for body in ("[", "[]", "{}", '{"entries": 3, "now": 1}', '{"entries": [], "now": 1e300}'):
        assert browser.post(address, body, content_type="application/json").status_code == 422
    many = json.dumps({"entries": [{}] * 201, "now": 1.0})
    assert (
        "At most 200"
        in browser.post(address, many, content_type="application/json").json()["wrong"]
    )


def test_a_photo_comes_with_its_entry(browser: Client, split: SavedPlan) -> None:
    file = io.BytesIO()
    Image.new("RGB", (40, 30), "teal").save(file, "JPEG")
    now, sent = timezone.now(), base64.b64encode(file.getvalue()).decode()
    rows = [_row(now, photo=sent), _row(now, photo="bm90aGluZw=="), _row(now, photo="%")]
    answer = _send(browser, split, rows)
    assert _states(answer) == ["kept", "refused", "refused"]
    assert "no picture" in answer["received"][1]["errors"]["photo"]
    assert Image.open(io.BytesIO(bytes(LogPhoto.objects.get().image))).size == (40, 30)


def test_a_clock_that_goes_wrong_is_put_right_but_for_times_that_were_typed(
    browser: Client, split: SavedPlan
) -> None:
    now = timezone.now()
    slow = now - timedelta(hours=3)
    rows = [
        _row(slow - timedelta(minutes=5)),
        _row(now - timedelta(days=1), is_at_typed=True, typed={"words": "typed"}),
    ]
    answer = _send(browser, split, rows, slow)
    assert "180 minutes behind" in answer["told"]
    at = {e.values["words"]: e.at for e in LogEntry.objects.filter(plan=split)}
    assert abs(at["dry"] - (now - timedelta(minutes=5))) < timedelta(minutes=1)
    assert abs(at["typed"] - (now - timedelta(days=1))) < timedelta(seconds=1)
    assert not _send(browser, split, [], now + timedelta(seconds=30))["told"]


def test_a_part_that_is_gone_by_then_is_told_and_nothing_is_lost(
    browser: Client, split: SavedPlan
) -> None:
    """Also where it stands in the plan but is no place for such a reading any more; the log still
    opens."""
    before = timezone.now()
    bed = {"period": "11 min"}
    rows = [
        _row(before, "cycle", part="B99", typed=bed),
        _row(before, "cycle", part="T1", typed=bed),
        _row(before, "level", part="J1", typed={"below": "12 cm"}),
        _row(before, "bucket", part="P1", typed={"volume": "9 L", "times": "40"}),
    ]
    answer = _send(browser, split, rows)
    assert _states(answer) == ["kept"] * 4
    told = [row["told"][0] for row in answer["received"]]
    assert told[0] == "B99 is no longer in the plan; the entry is kept."
    assert "not measured at" in told[1]
    assert browser.get(reverse("run", args=[split.key])).status_code == 200


def test_the_page_has_every_form_and_what_it_needs_to_be_kept(
    browser: Client, split: SavedPlan
) -> None:
    page = browser.get(reverse("offline_log", args=[split.key])).content.decode()
    for kind in ("bucket", "cycle", "level", "watts", "water", "top_up", "note", "job"):
        assert f'data-kind="{kind}"' in page
    manifest = browser.get(reverse("offline_manifest", args=[split.key])).json()
    assert manifest["start_url"] == reverse("offline_log", args=[split.key])
    worker = browser.get(reverse("service_worker"))
    assert worker["Content-Type"].startswith("text/javascript")
    assert b"bathys-offline-log" in worker.content
    assert browser.get(reverse("offline_token", args=[split.key])).json()["token"]


def test_times_are_read_and_shown_by_the_readers_clock(browser: Client, split: SavedPlan) -> None:
    """What is no zone is passed over."""
    browser.cookies["zone"] = "Asia%2FTokyo"
    told = {"part": "", "words": "x", "at": "2026-01-02T10:00"}
    browser.post(reverse("enter", args=[split.key, "note"]), told)
    assert LogEntry.objects.get(plan=split).at == datetime(2026, 1, 2, 1, 0, tzinfo=UTC)
    address = reverse("run", args=[split.key])
    assert "2 Jan 2026, 10:00" in browser.get(address).content.decode()
    for zone in ("../../etc/passwd", "Nowhere", "%00", "Asia"):
        browser.cookies["zone"] = zone
        assert "2 Jan 2026, 01:00" in browser.get(address).content.decode()
