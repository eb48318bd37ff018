"""What goes wrong first if nothing is cleaned: by the last fit of a plan to its log, and by where
the measurements themselves go."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from bathys.evaluation import Evaluation
from bathys.units import fill_sentence
from bathys_web.computing.asking import last_answer
from bathys_web.plans.log_news import last_cleaned, news_of
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.run_page import measured_rows

__all__ = ["Harm", "harm_ahead"]

_AHEAD = timedelta(days=60)  # what comes later is not told yet


@dataclass(frozen=True, slots=True)
class Harm:
    """What goes wrong first if nothing is cleaned.

    Attributes
    ----------
    label : str
        What goes well until then; or all of the sentence, if it is not by a fit
    until : datetime
        Until when, most likely
    is_fitted : bool
        Whether it is by a fit of the plan to its log, and not by a trend of measurements alone
    """

    label: str
    until: datetime
    is_fitted: bool


def harm_ahead(
    saved: SavedPlan, found: Evaluation, entries: Sequence[LogEntry], now: datetime
) -> Harm | None:
    """What goes wrong first if nothing is cleaned.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    found : Evaluation
        Its numbers
    entries : sequence of LogEntry
        Its log, the latest first
    now : datetime
        The present moment

    Returns
    -------
    Harm or None
        None where neither a fit since the last cleaning nor a trend tells of any within two months
    """
    rows = [*_by_fit(saved, found, entries), *_by_trend(found, entries, now)]
    first = min(rows, key=lambda row: row.until, default=None)
    return first if first is not None and first.until < now + _AHEAD else None


def _by_fit(saved: SavedPlan, found: Evaluation, entries: Sequence[LogEntry]) -> Iterator[Harm]:
    answer = last_answer("refit", f"refit-{saved.pk}", saved.current.content_hash)
    if answer is None:
        return
    result, fitted = answer
    cleaned = last_cleaned(entries)
    if cleaned is not None and cleaned > fitted:
        return
    for label, likely, *_ in result.get("lasting", ()):
        if likely is not None:
            words = fill_sentence(label, {}, "metric", found.plan.names)
            yield Harm(words, fitted + timedelta(days=likely), is_fitted=True)


def _by_trend(found: Evaluation, entries: Sequence[LogEntry], now: datetime) -> Iterator[Harm]:
    series = sorted(measured_rows(entries, found).items())
    for row in news_of(series, entries, found, now, "metric"):
        if row.days is not None:
            yield Harm(row.words, now + timedelta(days=row.days), is_fitted=False)
