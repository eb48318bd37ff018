"""A season of invented log for a demo plan: filled, cycled, stocked, sown, fed, cleaned, harvested.

All of it is made up. It drifts as pipes grow film and a strainer loads up; cleaning puts it right.
"""

import math
from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any
from uuid import uuid4

import numpy as np

from bathys.evaluation import Evaluation
from bathys.fieldlog import due_jobs, expected_of
from bathys.ground import is_tended
from bathys_web.plans.models import LogEntry, SavedPlan

__all__ = ["write_season"]

_DAYS = 92  # since it was filled
_STOCKED = 64  # days ago
_CLEANED = (50, 22)  # days ago
_FILM = 0.006  # of its flow an outlet loses a day until it is cleaned [-]
_DAILY = 0.0105  # feed a day over what the fish weigh [-]
_GROWS = 0.0072  # a day [-]

_BY_ENTRIES = ("sow-", "test", "sludge-", "top-up-")  # jobs that other entries do

_Row = tuple[float, str, str, dict[str, Any], str]  # days ago, kind, part, values, note


def write_season(saved: SavedPlan, found: Evaluation, now: datetime) -> None:
    """Write it into the log of a plan.

    Parameters
    ----------
    saved : SavedPlan
        The plan, which has one cohort of fish and beds of plants
    found : Evaluation
        Its numbers
    now : datetime
        When the season stands where it does
    """
    rows = sorted(_rows(found), key=lambda row: -row[0])
    LogEntry.objects.bulk_create(
        LogEntry(
            plan=saved,
            key=uuid4(),
            kind=kind,
            part=part,
            at=now - timedelta(days=ago),
            values=values,
            note=note,
        )
        for ago, kind, part, values, note in rows
        if ago > 0.02
    )


def _rows(found: Evaluation) -> Iterator[_Row]:
    draw = np.random.default_rng(7)
    yield from _started(found)
    yield from _fish(found, draw)
    yield from _water(found, draw)
    yield from _measured(found, draw)
    yield from _grown(found)
    yield from _jobs(found, draw)
    yield from _spent()


def _spent() -> Iterator[_Row]:
    for ago, what, value in (
        (_STOCKED, "fish", 84.0),
        (_STOCKED + 1, "feed", 31.0),
        (26, "feed", 31.0),
        (62, "seed", 9.5),
        (60, "buffer and iron", 14.0),
    ):
        yield ago, "cost", "", {"what": what, "value": value}, ""
    for week in range(12):
        yield 7.0 * week + 1.5, "hours", "", {"time": 3600.0 * (2.0 + 0.5 * (week % 3))}, ""


def _tank(found: Evaluation) -> str:
    return next(v.id for v in found.plan.vessels if v.use.keeps_fish)


def _started(found: Evaluation) -> Iterator[_Row]:
    tank = _tank(found)
    yield _DAYS, "note", "", {"words": "Filled to the mark and left overnight."}, ""
    yield _DAYS - 1, "note", "", {"words": "Dry under every joint. One union was hand tight."}, ""
    yield _DAYS - 2, "note", "", {"words": "Power cut tried: the sump stayed under its rim."}, ""
    for day in (2, 5, 8, 12):
        values = {"what": "ammonium chloride", "mass": 0.012}
        yield _DAYS - day, "addition", tank, values, "cycling without fish"
    yield _DAYS - 30, "addition", tank, {"what": "potassium bicarbonate", "mass": 0.06}, ""
    yield 31, "addition", tank, {"what": "chelated iron", "mass": 0.008}, "young leaves were pale"


def _fish(found: Evaluation, draw: np.random.Generator) -> Iterator[_Row]:
    cohort: Any = found.plan.fish[0]
    at_first = cohort.mean_mass / math.exp(_GROWS * _STOCKED)
    count = cohort.count + 2  # two died
    yield _STOCKED + 0.1, "note", "", {"words": f"{count} fish came; none looked hurt."}, ""
    for day in range(0, _STOCKED + 1, 14):
        mean = at_first * math.exp(_GROWS * day) * float(draw.normal(1.0, 0.02))
        values = {"count": 8.0, "mass": round(8.0 * mean, 3)}
        yield _STOCKED - day, "netted", cohort.id, values, ""
    yield _STOCKED, "spoon", cohort.id, {"count": 10.0, "mass": 0.105}, "the larger spoon"
    yield 43, "graded", cohort.id, {"small": 12.0, "large": float(count - 13)}, "none moved"
    died = (58, 41)
    for day in range(1, _STOCKED):
        ago = _STOCKED - day
        # The first days they eat little; on one day nobody was there.
        share = min(1.0, 0.3 + 0.1 * day) * float(draw.normal(1.0, 0.05))
        feed = _DAILY * share * count * at_first * math.exp(_GROWS * day)
        if ago != 35:
            values = {"mass": round(feed, 3)}
            if day % 9 == 0:
                values |= {"eaten": float(draw.integers(40, 90))}
            yield ago - 0.3, "feed", cohort.id, values, ""
        if ago in died:
            yield ago - 0.2, "deaths", cohort.id, {"count": 1.0}, "a small one"
    yield 35, "note", "", {"words": "Away for a day; a neighbour looked in."}, ""


def _water(found: Evaluation, draw: np.random.Generator) -> Iterator[_Row]:
    tank = _tank(found)
    for day in (*range(1, 30, 3), *range(33, _DAYS, 7)):
        # Ammonia comes, then nitrite, then nitrate, until each is eaten as fast as it comes.
        ammonia = 3.0 * math.exp(-(((day - 9) / 5.0) ** 2)) + 0.1
        nitrite = 2.4 * math.exp(-(((day - 18) / 5.5) ** 2)) + 0.05
        nitrate = 45.0 / (1.0 + math.exp(-(day - 30) / 9.0)) * (1.0 - 0.004 * max(day - 50, 0))
        values = {
            "temperature": round(float(draw.normal(24.0, 0.5)), 1),
            "ph": round(7.5 - 0.007 * day + float(draw.normal(0.0, 0.05)), 1),
            "ammonia": round(ammonia, 2),
            "nitrite": round(nitrite, 2),
            "nitrate": float(5 * round(nitrate / 5)),
            "alkalinity": float(10 * round(max(110.0 - 0.7 * day, 40.0) / 10)),
        }
        if day > 28:
            values["oxygen"] = round(float(draw.normal(6.1, 0.3)), 1)
        yield _DAYS - day - 0.4, "water", tank, values, ""


def _measured(found: Evaluation, draw: np.random.Generator) -> Iterator[_Row]:
    """Buckets, cycles, levels and watts: each drifts until the strainer is cleaned."""
    buckets = [d.run for d in found.deliveries if expected_of("bucket", d.run, found)]
    for day in range(1, _DAYS, 10):
        ago = _DAYS - day
        since = min((_DAYS - c for c in (_DAYS, *_CLEANED) if c >= ago), key=lambda c: day - c)
        share = (1.0 - _FILM) ** max(day - since, 0)
        for run in buckets:
            told = expected_of("bucket", run, found)
            if told is not None:
                seconds = 0.01 / (told.value * share)
                times = [round(float(seconds * draw.normal(1.0, 0.02)), 1) for _ in range(3)]
                yield ago - 0.35, "bucket", run, {"volume": 0.01, "times": times}, ""
        for bed in found.beds:
            cycle = expected_of("cycle", bed.bed.id, found)
            if cycle is not None:
                period = round(float(cycle.value / share**0.7 * draw.normal(1.0, 0.01)))
                yield ago - 0.34, "cycle", bed.bed.id, {"period": float(period)}, ""
        for pump in found.plan.pumps:
            power = expected_of("watts", pump.id, found)
            if power is not None and day % 30 == 1:
                watts = round(float(power.value * draw.normal(1.0, 0.01)), 1)
                yield ago - 0.33, "watts", pump.id, {"power": watts}, ""
            level = expected_of("level", pump.stands_in, found)
            if level is not None:
                below = round(level.value + float(draw.normal(0.0, 0.01)), 3)
                yield ago - 0.32, "level", pump.stands_in, {"below": max(below, 0.0)}, ""


def _grown(found: Evaluation) -> Iterator[_Row]:
    beds = [v.id for v in found.plan.vessels if is_tended(v) and not v.use.has_rafts]
    rafts = [v.id for v in found.plan.vessels if v.use.has_rafts]
    for number, raft in enumerate(rafts):
        for day in range(30, 90, 7):
            yield _DAYS - day, "sown", raft, {"what": "lettuce", "count": 18.0}, ""
        for place, day in enumerate(range(62, 91, 7)):
            mass = round(14 * 0.19 * (0.9 + 0.04 * place) - 0.1 * number, 2)
            values = {"what": "lettuce", "count": 14.0, "mass": mass, "value": 21.0}
            yield _DAYS - day, "harvest", raft, values, ""
    for number, bed in enumerate(beds):
        yield _DAYS - 32, "sown", bed, {"what": "tomatoes, as seedlings", "count": 3.0}, ""
        for place, day in enumerate((78, 84, 90)):
            ripe = round(0.8 + 0.45 * place + number * (0.3 - 0.12 * place), 2)
            values = {"what": "tomatoes", "mass": ripe, "value": 4.0}
            yield _DAYS - day, "harvest", bed, values, ""
    yield (
        27,
        "note",
        "",
        {"words": "Aphids on the tomatoes; ladybirds put in, nothing sprayed."},
        "",
    )


def _jobs(found: Evaluation, draw: np.random.Generator) -> Iterator[_Row]:
    for row in due_jobs(found, {}, 0.0):
        job = row.job
        if job.key == "look":
            yield 0.6, "job", "", {"job": job.key}, ""
        if job.days <= 2 or job.days > 90 or job.key.startswith(_BY_ENTRIES):
            continue
        if job.key.startswith("strainer-"):
            for ago in _CLEANED:
                yield ago + 0.02, "job", "", {"job": job.key}, "leaves and one snail"
            continue
        every = max(float(job.days), 7.0)
        left = _DAYS - every
        while left > 0.0:
            yield left + float(draw.uniform(0.0, 0.8)), "job", "", {"job": job.key}, ""
            left -= every * float(draw.uniform(1.0, 1.25))
    settler = next((v.id for v in found.plan.vessels if v.job == "settler"), None)
    fed = next(p.stands_in for p in found.plan.pumps)
    for ago in range(_STOCKED - 6, 3, -9):
        if settler is not None:
            yield ago, "purge", settler, {"volume": 0.012}, ""
    for ago in range(_DAYS - 3, 3, -3):
        volume = round(float(draw.normal(0.045, 0.006)), 3)
        yield ago, "top_up", fed, {"volume": max(volume, 0.02)}, ""
