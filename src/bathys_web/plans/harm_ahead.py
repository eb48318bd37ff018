"""What goes wrong first if nothing is cleaned, by the last fit of a plan to its log."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from bathys.plan import Plan
from bathys.units import fill_sentence
from bathys_web.computing.asking import last_answer
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.run_page import CLEANED

__all__ = ["Harm", "harm_ahead"]

_AHEAD = timedelta(days=60)  # what comes later is not told yet


@dataclass(frozen=True, slots=True)
class Harm:
    """What goes wrong first if nothing is cleaned.

    Attributes
    ----------
    label : str
        What goes well until then, for people
    until : datetime
        Until when, most likely
    """

    label: str
    until: datetime


def harm_ahead(
    saved: SavedPlan, plan: Plan, entries: Sequence[LogEntry], now: datetime
) -> Harm | None:
    """What goes wrong first if nothing is cleaned.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    plan : Plan
        What it says now
    entries : sequence of LogEntry
        Its log
    now : datetime
        The present moment

    Returns
    -------
    Harm or None
        None where it was never fitted as it stands, where something was cleaned since, or where all
        goes well for two months
    """
    answer = last_answer("refit", f"refit-{saved.pk}", saved.current.content_hash)
    if answer is None:
        return None
    result, fitted = answer
    cleaned = (
        e.at for e in entries if e.kind == "job" and str(e.values.get("job")).startswith(CLEANED)
    )
    if any(at > fitted for at in cleaned):
        return None
    rows = [
        Harm(fill_sentence(label, {}, "metric", plan.names), fitted + timedelta(days=likely))
        for label, likely, *_ in result.get("lasting", ())
        if likely is not None
    ]
    first = min(rows, key=lambda row: row.until, default=None)
    return first if first is not None and first.until < now + _AHEAD else None
