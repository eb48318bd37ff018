"""The report of a season: for the page, the spreadsheet and paper, from one source."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.utils import timezone

from bathys.documents import DatedEntry, Table, season_tables
from bathys.evaluation import Evaluation
from bathys.fieldlog import Logged
from bathys.units import System
from bathys_web.plans.models import LogEntry
from bathys_web.plans.paper import set_on_paper, shown_table

__all__ = ["dated_entries", "entries_of_words", "report_pdf_of", "report_tables", "report_words"]

_LEFT_OUT = ("note",)  # words are for the log


def report_words(
    entries: Sequence[LogEntry], now: datetime, units: System, paper: str
) -> dict[str, Any]:
    """A log as it is asked of the queue to be set on paper.

    Parameters
    ----------
    entries : sequence of LogEntry
        The log
    now : datetime
        The present moment
    units : System
        The reader's units
    paper : str
        The paper

    Returns
    -------
    dict of str to object
        Plain data, the same all day long
    """
    rows = [
        [r.on, r.entry.kind, r.entry.part, dict(r.entry.values), round(r.entry.age)]
        for r in dated_entries(entries, now)
    ]
    made = timezone.localtime(now).strftime("%Y-%m-%d")
    return {"rows": rows, "units": units, "paper": paper, "made": made}


def entries_of_words(words: Mapping[str, Any]) -> list[DatedEntry]:
    """The log out of what was asked of the queue.

    Parameters
    ----------
    words : mapping of str to object
        From :func:`report_words`

    Returns
    -------
    list of DatedEntry
        The log
    """
    return [
        DatedEntry(on, Logged(kind, part, values, float(age)))
        for on, kind, part, values, age in words["rows"]
    ]


def dated_entries(entries: Sequence[LogEntry], now: datetime) -> list[DatedEntry]:
    """A log with the day of each entry.

    Parameters
    ----------
    entries : sequence of LogEntry
        The log, the latest first
    now : datetime
        From when ages are counted

    Returns
    -------
    list of DatedEntry
        The oldest first
    """
    return [
        DatedEntry(
            timezone.localtime(e.at).strftime("%Y-%m-%d"),
            e.logged(now),
        )
        for e in reversed(entries)
        if e.kind not in _LEFT_OUT
    ]


def report_tables(
    found: Evaluation, rows: Sequence[DatedEntry], units: System
) -> list[dict[str, Any]]:
    """The tables of a season as a page shows them.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    rows : sequence of DatedEntry
        Its log
    units : System
        The reader's units

    Returns
    -------
    list of dict
        As :func:`~bathys_web.plans.paper.shown_table`
    """
    tables: Sequence[Table] = season_tables(found, rows)
    return [shown_table(table, found.plan.site.currency, units) for table in tables]


def report_pdf_of(found: Evaluation, words: Mapping[str, Any]) -> bytes:
    """The report as PDF.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    words : mapping of str to object
        From :func:`report_words`

    Returns
    -------
    bytes
        A PDF file
    """
    rows = entries_of_words(words)
    context = {
        "plan": found.plan,
        "made": words["made"],
        "first": rows[0].on if rows else words["made"],
        "tables": report_tables(found, rows, words["units"]),
    }
    return set_on_paper("plans/paper/report.html", context, words["paper"])
