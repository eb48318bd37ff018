"""The jobs of a plan as a calendar file (iCalendar, RFC 5545)."""

import math
from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event

from bathys.routine import Job, SeasonStep
from bathys.units import System, fill_sentence

__all__ = ["routine_ics", "season_ics"]


def season_ics(
    steps: Sequence[SeasonStep],
    name: str,
    key: str,
    begins: date,
    units: System,
    made: datetime | None = None,
) -> bytes:
    """The steps of the first season as events of a day each.

    Parameters
    ----------
    steps : sequence of SeasonStep
        The steps
    name : str
        Name of the plan
    key : str
        By which a calendar knows the plan's events again
    begins : date
        The day on which it is filled
    units : System
        The reader's units
    made : datetime, optional
        When the file is made; now if not given

    Returns
    -------
    bytes
        An iCalendar file
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Bathys//season//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for step in steps:
        event = Event()
        event.add("uid", f"season-{step.key}@{key}.bathys")
        event.add("dtstamp", made or datetime.now(UTC))
        event.add("summary", step.title)
        event.add("description", fill_sentence(step.text, step.figures, units, {}))
        event.add("dtstart", begins + timedelta(days=step.day))
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    content: bytes = calendar.to_ical()
    return content


def routine_ics(
    jobs: Sequence[Job],
    name: str,
    key: str,
    begins: date,
    units: System,
    made: datetime | None = None,
    due: Mapping[str, float] | None = None,
) -> bytes:
    """The jobs as events that come again.

    Parameters
    ----------
    jobs : sequence of Job
        The jobs
    name : str
        Name of the plan
    key : str
        By which a calendar knows the plan's events again
    begins : date
        The first day
    units : System
        The reader's units
    made : datetime, optional
        When the file is made; now if not given
    due : mapping of str to float, optional
        Until when each job is due next, by its key, [d]; what is overdue is put on the first day

    Returns
    -------
    bytes
        An iCalendar file. Where nothing is told of it, what comes every day begins on the first;
        all else after its first interval
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Bathys//routine//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for job in jobs:
        event = Event()
        event.add("uid", f"{job.key}@{key}.bathys")
        event.add("dtstamp", made or datetime.now(UTC))
        event.add("summary", job.title)
        event.add("description", fill_sentence(job.text, job.figures, units, {}))
        usual = 0 if job.days == 1 else job.days
        first = usual if due is None else max(math.ceil(due.get(job.key, usual)), 0)
        event.add("dtstart", begins + timedelta(days=first))
        event.add("rrule", {"freq": "daily", "interval": job.days})
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    content: bytes = calendar.to_ical()
    return content
