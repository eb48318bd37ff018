"""Trials as their page shows them: what was measured, whether it differs, what else is unequal."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from bathys.evaluation import Evaluation
from bathys.fieldlog import (
    TRIAL_MEASURES,
    Comparison,
    Condition,
    Logged,
    compare,
    conditions_of,
    day_of_reading,
    due_parts,
    replicates_needed,
    samples_of,
    trial_days,
)
from bathys.units import System, fill_sentence, show
from bathys_web.plans.models import LogEntry, SavedPlan, Trial
from bathys_web.plans.storing import assessment_of

__all__ = ["TrialDue", "trial_told", "trials_due"]

_RARE, _FEWEST = 0.01, 3
_SEEN = 0.2  # of a difference that is worth seeing (assumed) [-]


@dataclass(frozen=True, slots=True)
class TrialDue:
    """Something of a trial that is to be done now.

    Attributes
    ----------
    title, what : str
        The trial's title, and what is to be done
    name : str
        Name of the part, after that of its plan where it is another
    key : UUID
        Key of the plan it is of
    part, kind : str
        Its id, and the kind of entry that it is written down by
    """

    title: str
    what: str
    name: str
    key: UUID
    part: str
    kind: str


def _sides(trial: Trial) -> tuple[tuple[SavedPlan, str], tuple[SavedPlan, str]]:
    """Plan and id of both parts."""
    return (trial.plan, trial.first), (trial.other or trial.plan, trial.second)


def trials_due(trial: Trial, now: datetime) -> list[TrialDue]:
    """What of a trial is to be measured or photographed now.

    Parameters
    ----------
    trial : Trial
        The trial
    now : datetime
        The present moment

    Returns
    -------
    list of TrialDue
        First readings, then photos
    """
    measure, age = TRIAL_MEASURES[trial.measure], (now - trial.began).total_seconds() / 86400.0
    rows = list[TrialDue]()
    for what, kind in ((measure.key, measure.kind), ("photo", "note")):
        for saved, part in _sides(trial):
            entries = LogEntry.objects.filter(plan=saved, part=part)
            if what == "photo":
                ago = [e.age(now) for e in entries.filter(photo__isnull=False)]
            else:
                made = entries.filter(kind=kind)
                ago = [e.age(now) for e in made if measure.value(e.values) is not None]
            plan = assessment_of(saved.current).evaluation.plan
            if part in plan.names and due_parts(what, age, [(part, ago)]):
                other = f"{plan.name}: " if saved.pk != trial.plan_id else ""
                name = other + plan.names[part]
                does = "Photograph" if what == "photo" else measure.title
                rows.append(TrialDue(trial.title, does, name, saved.key, part, kind))
    return rows


def _log_of(saved: SavedPlan, now: datetime) -> list[Logged]:
    rows = LogEntry.objects.filter(plan=saved, kind__in={m.kind for m in TRIAL_MEASURES.values()})
    return [e.logged(now) for e in rows]


def trial_told(trial: Trial, found: Evaluation, now: datetime, units: System) -> dict[str, Any]:
    """A trial, with what came of it so far.

    Parameters
    ----------
    trial : Trial
        The trial
    found : Evaluation
        The numbers of its plan
    now : datetime
        When it is shown
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    measure = TRIAL_MEASURES[trial.measure]
    other = assessment_of(trial.other.current).evaluation if trial.other is not None else found
    since = (now - trial.began).total_seconds() / 86400.0 + trial.from_days
    first = samples_of(_log_of(trial.plan, now), trial.first, measure.key, since)
    second = samples_of(_log_of(trial.other or trial.plan, now), trial.second, measure.key, since)
    names = (
        found.plan.names.get(trial.first, trial.first),
        other.plan.names.get(trial.second, trial.second),
    )
    result = compare(first, second)
    both = trial.first in found.plan.names and trial.second in other.plan.names
    rows = conditions_of((found, trial.first), (other, trial.second)) if both else ()
    return {
        "trial": trial,
        "measure": measure.title,
        "names": names,
        "other": other.plan.name if trial.other is not None else "",
        "counts": (len(first), len(second)),
        "means": [show(m, measure.quantity, units) for m in result.means] if result else [],
        "spreads": [show(s, measure.quantity, units) for s in result.spreads] if result else [],
        "words": _verdict(result, (len(first), len(second)), names, measure.quantity, units),
        "needed": _needed(trial, result, units),
        "due": trials_due(trial, now),
        "next": _next(trial, now),
        "conditions": [_condition(row, units) for row in rows],
    }


def _verdict(
    result: Comparison | None,
    counts: tuple[int, int],
    names: Sequence[str],
    quantity: str,
    units: System,
) -> str:
    if result is None and min(counts) >= _FEWEST:
        return "As entered they do not differ at all: nothing varies that could be compared."
    if result is None:
        return "Three measurements of either are needed before anything can be said."
    way = "more" if result.means[1] > result.means[0] else "less"
    figures: dict[str, float | str] = {
        "name": names[1],
        "other": names[0],
        "gap": abs(result.means[1] - result.means[0]),
        "low": result.low,
        "high": result.high,
        "chance": result.welch,
        "dealt": result.permuted,
    }
    words = f"The difference, {{gap:{quantity}}} {way}, is no more than chance may give. "
    if result.is_told:
        words = f"{{name:words}} gives {{gap:{quantity}}} {way} than {{other:words}}. "
    words += f"It lies between {{low:{quantity}}} and {{high:{quantity}}}, to 95 %. "
    often = "less than 1 of 100" if result.welch < _RARE else "{chance:percent} of"
    words += f"Chance alone would give as much in {often} trials."
    if result.is_doubted:
        words += " By dealing them out at random it is {dealt:percent}: measure more often."
    return fill_sentence(words, figures, units, {})


def _next(trial: Trial, now: datetime) -> datetime | None:
    """When both are to be measured again; none for what comes when it comes."""
    day = trial_days(trial.measure, (now - trial.began).total_seconds() / 86400.0).next
    return None if day is None else trial.began + timedelta(days=day)


def _needed(trial: Trial, result: Comparison | None, units: System) -> str:
    """How many measurements would show a fifth, and how long that takes."""
    if result is None or result.is_told or not all(result.means):
        return ""
    share = max(s / abs(m) for s, m in zip(result.spreads, result.means, strict=True))
    count = replicates_needed(share, _SEEN)
    if count <= min(result.counts):
        return ""
    words = (
        "With this spread it takes {count:count} measurements of either to see a difference of "
        "{share:percent} four times in five."
    )
    last = day_of_reading(trial.measure, count)
    if last is not None:
        words += " Measured on its days, the trial takes {weeks:count} weeks."
    weeks = math.ceil((last or 0) / 7.0)
    figures: dict[str, float | str] = {
        "count": float(count),
        "share": _SEEN,
        "weeks": float(max(weeks, 1)),
    }
    return fill_sentence(words, figures, units, {})


def _condition(row: Condition, units: System) -> dict[str, Any]:
    def told(value: float | str | None) -> str:
        if isinstance(value, float):
            return show(value, row.quantity, units)
        return str(value).replace("_", " ") if value is not None else "–"

    return {
        "what": row.what,
        "first": told(row.first),
        "second": told(row.second),
        "is_equal": row.is_equal,
    }
