"""The sheet for whoever looks after a layout while its builder is away."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any

from bathys.build import readings_of
from bathys.evaluation import Evaluation
from bathys.fieldlog import away_days
from bathys.quality.survival import about, survivals_of
from bathys.quality.water import water_of
from bathys.units import System, fill_sentence, show
from bathys_web.plans.models import LogEntry
from bathys_web.plans.run_page import jobs_due

__all__ = ["MOST_DAYS", "away_sheet"]

MOST_DAYS = 60


def away_sheet(
    found: Evaluation,
    entries: Sequence[LogEntry],
    now: datetime,
    days: tuple[date, date],
    units: System,
    harm: datetime | None = None,
) -> dict[str, Any]:
    """Everything on the sheet.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    entries : sequence of LogEntry
        Its log
    now : datetime
        When it is made
    days : (date, date)
        First and last day away
    units : System
        The reader's units
    harm : datetime, optional
        When something goes wrong if nothing is cleaned

    Returns
    -------
    dict of str to object
        ``every_day`` and ``days`` with their jobs, ``marks`` of levels, ``pumps`` with their watts,
        and how long fish ``last`` if all stands still
    """
    first, last = days
    today, count = now.date(), (last - first).days + 1
    rows = jobs_due(found, entries, now, harm)
    by_day = away_days(rows, max((first - today).days, 0), count)
    names = found.plan.names

    def told(jobs: Sequence[Any]) -> list[dict[str, str]]:
        return [
            {"title": job.title, "text": fill_sentence(job.text, job.figures, units, names)}
            for job in jobs
        ]

    daily = [row.job for row in rows if row.job.days == 1]
    return {
        "every_day": told(daily),
        "days": [
            {"on": first + timedelta(days=n), "jobs": told([j for j in jobs if j.days > 1])}
            for n, jobs in enumerate(by_day)
            if any(j.days > 1 for j in jobs)
        ],
        "count": count,
        **_looks(found, units),
        "last": _survival(found, units),
    }


def _looks(found: Evaluation, units: System) -> dict[str, list[dict[str, str]]]:
    """How water and pumps look when all is well."""
    plan = found.plan
    by_vessel: dict[str, dict[str, float]] = {}
    pumps = []
    for row in readings_of(found):
        if row.what in ("low", "high"):
            by_vessel.setdefault(row.part, {})[row.what] = row.expected
        elif row.what == "watts":
            watts = show(row.expected, "power", units)
            pumps.append({"name": plan.names[row.part], "watts": watts})
    marks = []
    for id_, levels in by_vessel.items():
        rim = plan.vessel(id_).shape.height
        marks.append(
            {
                "name": plan.names[id_],
                "high": show(rim - levels["high"], "length", units),
                "low": show(rim - levels["low"], "length", units),
            }
        )
    return {"marks": marks, "pumps": pumps}


def _survival(found: Evaluation, units: System) -> str:
    """For how long the fish that are worst off have oxygen with water and air off."""
    water = water_of(found) if found.plan.fish else None
    if water is None:
        return ""
    times = [s.neither for s in survivals_of(found, water) if s.neither is not None]
    return show(about(min(times)), "time", units) if times else ""
