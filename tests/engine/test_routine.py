"""The jobs of a plan: each once, by what loads up, and as a calendar that others read."""

from datetime import date, timedelta
from pathlib import Path

import pytest
from icalendar import Calendar

from bathys.documents import routine_ics
from bathys.edits import Edit, apply_edits
from bathys.evaluation import evaluate
from bathys.plan import load_plan
from bathys.quality.sludge import sludge_of
from bathys.quality.solids import solids_of
from bathys.routine import jobs_of
from tests.conftest import EXAMPLE

LAYOUTS = sorted(EXAMPLE.parent.glob("*.json"))


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_every_part_that_wants_care_has_its_job(path: Path) -> None:
    """One for each pump, siphon and stone; every interval in whole days; names stand once."""
    found = evaluate(load_plan(path.read_bytes()))
    jobs = jobs_of(found)
    assert len({j.key for j in jobs}) == len(jobs)
    assert [j.days for j in jobs] == sorted(j.days for j in jobs)
    assert all(1 <= j.days <= 365 for j in jobs)
    parts = {j.part for j in jobs}
    plan = found.plan
    assert {p.id for p in (*plan.pumps, *plan.siphons, *plan.air)} <= parts


def test_more_feed_never_puts_sludge_off() -> None:
    """And the interval is the early end of the doubt, in whole days."""
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    days = []
    for feed in (0.05, 0.1, 0.2):
        found = evaluate(apply_edits(plan, [Edit("brief.feed_a_day", feed)]))
        job = next(j for j in jobs_of(found) if j.key == "sludge-C1")
        sludge = sludge_of(solids_of(found), found.plan.vessel("C1"))
        assert sludge is not None
        assert sludge.soonest is not None
        assert job.days == max(int(sludge.soonest), 1)
        days.append(job.days)
    assert days == sorted(days, reverse=True)


def test_the_calendar_is_read_again_with_every_job() -> None:
    """By another reader of RFC 5545: dates, intervals and words, also odd ones."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    plan = apply_edits(plan, [Edit("pumps.P1.name", "Pump; {x}, “one”\\n")])
    jobs = jobs_of(evaluate(plan))
    begins = date(2030, 3, 1)
    text = routine_ics(jobs, plan.name, "abc", begins, "us")
    events = {str(e["uid"]): e for e in Calendar.from_ical(text).walk("VEVENT")}
    assert len(events) == len(jobs)
    for job in jobs:
        event = events[f"{job.key}@abc.bathys"]
        assert str(event["summary"]) == job.title
        assert event["rrule"]["INTERVAL"] == [job.days]
        after = 0 if job.days == 1 else job.days
        assert event["dtstart"].dt == begins + timedelta(days=after)
        assert " L" not in str(event["description"]).replace(" Lo", "")
