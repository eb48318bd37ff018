"""The jobs of a plan: each once, by what loads up, and as a calendar that others read."""

import math
import re
from datetime import date, timedelta
from pathlib import Path

import pytest
from icalendar import Calendar

from bathys.documents import routine_ics, season_ics
from bathys.edits import Edit, apply_edits
from bathys.evaluation import evaluate
from bathys.plan import Plan, load_plan
from bathys.quality.sludge import sludge_of
from bathys.quality.solids import solids_of
from bathys.quality.sowing import rotas_of
from bathys.quality.starting import ready_after
from bathys.routine import jobs_of, season_steps
from bathys.units import fill_sentence
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


def test_the_first_season_goes_in_its_order_and_its_dates_hang_together() -> None:
    """By hand: seedlings stand for their weeks before they are planted out, and plants from there
    to harvest; fish come once the water is ready, three days after the plants."""
    found = evaluate(load_plan((Path(EXAMPLE).parent / "fish-and-leaves.json").read_bytes()))
    steps = {step.key: step for step in season_steps(found)}
    days = [step.day for step in season_steps(found)]
    assert days == sorted(days)
    assert [steps[k].day for k in ("fill", "try", "cut", "cycle")] == [0, 1, 2, 3]
    about, soonest, latest = ready_after(found)
    assert about is not None and soonest is not None and latest is not None
    stock = steps["stock"]
    assert (stock.day, stock.latest) == (3 + math.ceil(about), 3 + math.ceil(latest))
    assert stock.soonest <= stock.day <= stock.latest
    for rota in rotas_of(found):
        crop = rota.vessel.crop
        assert crop is not None
        sow, plant, cut = (steps[f"{k}-{rota.vessel.id}"].day for k in ("sow", "plant", "harvest"))
        assert plant == stock.day - 3
        assert sow == max(round(plant - 7 * crop.grows.weeks_raised), 0)
        assert cut == round(plant + 7 * crop.grows.weeks_in_bed)
    for step in steps.values():
        assert fill_sentence(step.text, step.figures, "us", {}).endswith(".")


def test_without_fish_only_the_water_is_tried(demo_plan: Plan) -> None:
    assert [s.key for s in season_steps(evaluate(demo_plan))] == ["fill", "try", "cut"]


def test_the_first_season_is_read_by_a_calendar() -> None:
    found = evaluate(load_plan((Path(EXAMPLE).parent / "fish-and-leaves.json").read_bytes()))
    steps = season_steps(found)
    content = season_ics(steps, "Plan, with; marks", "key", date(2027, 3, 1), "metric")
    events = list(Calendar.from_ical(content).walk("VEVENT"))
    assert len(events) == len(steps)
    assert {str(e["summary"]): e.decoded("dtstart") for e in events}["Fill it"] == date(2027, 3, 1)


def test_a_bed_of_few_plants_is_sown_for_less_often() -> None:
    """No job asks for the sowing of nothing, nor for the harvest of no plant; over the weeks as
    many are sown as the rota has, and no more than one a time over."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    bed = next(v for v in plan.vessels if v.crop is not None and v.crop.grows.sites)
    for share in (1.0, 0.2, 0.05, 0.01):
        found = evaluate(apply_edits(plan, [Edit(f"vessels.{bed.id}.crop.planted", share)]))
        rota = next(r for r in rotas_of(found) if r.vessel.id == bed.id)
        job = next(j for j in jobs_of(found) if j.key == f"sow-{bed.id}")
        seeds, plants = (int(n) for n in re.findall(r"\d+", job.text))
        assert seeds >= plants >= 1
        assert seeds - 1 < rota.sown * job.days / 7.0 <= seeds
        assert "1 seeds" not in job.text
        assert "1 plants" not in job.text.replace("11 plants", "")


def test_young_fish_are_graded_and_grown_ones_are_not() -> None:
    """Each cohort by its own weight."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    (fish,) = plan.fish
    for share, graded in ((0.1, True), (0.29, True), (0.31, False), (0.9, False)):
        mass = share * fish.harvest_mass
        found = evaluate(apply_edits(plan, [Edit(f"fish.{fish.id}.mean_mass", mass)]))
        assert (f"grade-{fish.id}" in {j.key for j in jobs_of(found)}) == graded
