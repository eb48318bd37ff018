"""A plan fitted to its log, through its page."""

import html
import re
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from bathys.edits import Edit, apply_edits
from bathys.evaluation import evaluate
from bathys.plan import load_plan
from bathys_web.computing.models import Computation
from bathys_web.computing.results import pack
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.harm_ahead import harm_ahead
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.run_page import jobs_due
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.views.as_built import _words as words_of
from tests.conftest import EXAMPLE
from tests.queue_worker import until, worker

pytestmark = pytest.mark.django_db(transaction=True)

SPLIT = load_plan((Path(EXAMPLE).parent / "split-flow.json").read_bytes())
BUILT = apply_edits(
    SPLIT,
    [
        *(Edit(f"runs.{r.id}.film", 0.001) for r in SPLIT.runs),
        Edit("siphons.X1.starts_at", 0.4),
        Edit("pumps.P1.wear", 0.95),
    ],
)
"""The layout as it was built, which nobody knows."""


def _entry(saved: SavedPlan, kind: str, part: str, values: dict[str, Any], days: float) -> None:
    at = timezone.now() - timedelta(days=days)
    LogEntry.objects.create(plan=saved, key=uuid4(), kind=kind, part=part, at=at, values=values)


@pytest.fixture
def logged(owner: Any) -> SavedPlan:
    """The plan with a log of what the layout as built shows."""
    saved = create_plan(owner, SPLIT, "made for a test")
    _entry(saved, "note", "", {"words": "water in"}, 100)
    truth = evaluate(BUILT)
    for delivery in truth.duties["P1"].deliveries:
        seconds = 0.01 / delivery.flow
        times = [0.99 * seconds, seconds, 1.01 * seconds]
        _entry(saved, "bucket", delivery.run, {"volume": 0.01, "times": times}, 1)
    for bed in truth.beds:
        window = bed.cycle.window
        for kind, flow in (("starts", window.start.value), ("stops", window.stop.value)):
            _entry(saved, kind, bed.bed.id, {"volume": 0.01, "times": [0.01 / flow]}, 1)
        times = {"period": bed.cycle.period, "runs": bed.cycle.drain_time}
        _entry(saved, "cycle", bed.bed.id, times, 1)
    _entry(saved, "lift", "P1", {"height": truth.duties["P1"].shut_off_head}, 1)
    for days, volume in ((9.3, 0.1), (6.1, 0.04), (4.6, 0.02), (1.2, 0.05)):
        _entry(saved, "top_up", "S1", {"volume": volume}, days)
    for days, tan in ((30.0, 3.0), (20.0, 0.1), (18.0, 0.1), (2.0, 0.3)):
        _entry(saved, "water", "T1", {"ammonia": tan, "nitrite": 0.1, "nitrate": 9.0}, days)
    for days in range(1, 14):
        _entry(saved, "feed", "T1", {"mass": 0.12}, days + 0.4)
    return saved


def _page(browser: Client, saved: SavedPlan, asked: str = "") -> str:
    answer = browser.get(reverse("as_built", args=[saved.key]), {"asked": asked})
    assert answer.status_code == 200
    return html.unescape(answer.content.decode())


def test_what_is_asked_of_the_queue_is_the_same_a_moment_later(
    logged: SavedPlan, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Ages are counted from now; a page that asks again asks for the same fit."""
    first, now = words_of(logged), timezone.now()
    assert {row[0] for row in first["readings"]} >= {"dries", "ammonia", "bucket"}
    for seconds in (7.0, 90.0, 1800.0):
        later = now + timedelta(seconds=seconds)
        monkeypatch.setattr("django.utils.timezone.now", lambda at=later: at)
        assert words_of(logged) == first


def test_the_plan_is_fitted_to_its_log_and_kept_as_built(
    browser: Client, logged: SavedPlan
) -> None:
    """What nobody knew comes out of the log; the variant has it, the plan stays as it was."""
    address = reverse("as_built", args=[logged.key])
    with worker("quick"):
        browser.post(address)
        until(lambda: "What it is like now" in _page(browser, logged))
    page = _page(browser, logged)
    assert "Start of “Siphon" in page or "Start of “" in page
    assert "As planned and as built" in page
    assert "If nothing is cleaned" in page
    assert "Topped up, a day" in page
    assert "What to measure next" in page
    # How surely each thing goes well is told before and after; or that all of it does.
    told = re.findall(r'data-head="(Before[^"]*|Now)">([^<]+)<', page)
    assert len(told) % 2 == 0
    if told:
        assert "How surely it works" in page
        assert all(
            words in ("hardly ever", "nearly always") or 1 <= int(words.split()[0]) <= 98
            for _, words in told
        )
    else:
        assert "In all of 100 layouts" in page
    narrowed = _page(browser, logged, "reserve.X1")
    assert 'value="reserve.X1" selected' in narrowed
    made = browser.post(reverse("take_as_built", args=[logged.key]))
    variant = SavedPlan.objects.exclude(pk=logged.pk).get()
    assert made.url == reverse("plan", args=[variant.key])
    built = plan_of(variant.current)
    assert built.name.endswith(", as built")
    assert built.part("X1").starts_at == pytest.approx(0.4, rel=0.1)
    assert evaluate(built).duties["P1"].flow == pytest.approx(
        evaluate(BUILT).duties["P1"].flow, rel=0.02
    )
    assert plan_of(logged.current) == SPLIT
    assert browser.get(made.url).status_code == 200


def test_a_log_with_nothing_to_fit_says_where_to_begin(browser: Client, owner: Any) -> None:
    saved = create_plan(owner, SPLIT, "made for a test")
    assert "a bucket at each outlet" in _page(browser, saved)
    assert browser.post(reverse("as_built", args=[saved.key])).status_code == 200
    refused = browser.post(reverse("take_as_built", args=[saved.key]))
    assert refused.url == reverse("as_built", args=[saved.key])
    assert SavedPlan.objects.count() == 1


def test_what_was_before_a_cleaning_does_not_count(browser: Client, logged: SavedPlan) -> None:
    _entry(logged, "job", "", {"job": "strainer-P1"}, 0.5)
    assert {row[0] for row in words_of(logged)["readings"]} == {"dries", "ammonia"}
    LogEntry.objects.filter(kind__in=("top_up", "water")).delete()
    assert "a bucket at each outlet" in _page(browser, logged)


def test_what_goes_wrong_first_is_told_on_the_page_and_cleaning_is_due_before(
    browser: Client, logged: SavedPlan
) -> None:
    """By the last fit; once something is cleaned, or the plan is another, it is told no longer."""
    fitted = timezone.now() - timedelta(days=2)
    pack_of = {
        "lasting": [
            ("“{R5}” lets enough through", None, 70.0, None),
            ("“Siphon” starts by itself", 9.0, 4.0, 30.0),
            ("“Sump” stays under its rim", 40.0, 9.0, None),
        ]
    }
    Computation.objects.create(
        key="a fit",
        content=logged.current.content_hash,
        kind="refit",
        page=f"refit-{logged.pk}",
        document={},
        words={},
        state=Computation.State.DONE,
        ended=fitted,
        result=pack(pack_of),
    )
    run, now = reverse("run", args=[logged.key]), timezone.now()
    page = html.unescape(browser.get(run).content.decode())
    assert re.search(r"“Siphon” starts by itself until about \d+ \w+, 7 days from now", page)
    found, entries = evaluate(SPLIT), list(LogEntry.objects.filter(plan=logged))
    harm = harm_ahead(logged, assessment_of(logged.current).evaluation, entries, now)
    assert harm is not None
    assert harm.until == fitted + timedelta(days=9.0)
    before, after = (
        {row.job.key: row.left for row in jobs_due(found, entries, now, until)}
        for until in (None, harm.until)
    )
    assert after["strainer-P1"] == pytest.approx(min(before["strainer-P1"], 6.0), abs=0.01)
    assert {k for k in after if after[k] != before[k]} <= {k for k in after if k[0] in "cs"}
    assert not any(k.startswith("siphon-") for k in after if after[k] != before[k])
    _entry(logged, "job", "", {"job": "strainer-P1"}, 0.1)
    assert "until about" not in browser.get(run).content.decode()
