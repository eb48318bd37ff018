"""Which jobs of the routine are due, by when each was last done."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from bathys.evaluation import Evaluation
from bathys.routine import Job, jobs_of

__all__ = ["DueJob", "brought_forward", "due_jobs"]


@dataclass(frozen=True, slots=True)
class DueJob:
    """A job and when it is due.

    Attributes
    ----------
    job : Job
        The job
    last : float or None
        How long ago it was done, none if it never was, [d]
    left : float
        Until it is due, below 0 if it is overdue, [d]
    """

    job: Job
    last: float | None
    left: float


def due_jobs(found: Evaluation, done: Mapping[str, float], since: float) -> tuple[DueJob, ...]:
    """The jobs of a plan by when they are due.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    done : mapping of str to float
        How long ago each job was last done, by its key, [d]
    since : float
        For how long the layout has run, from which on jobs that were never done count, [d]

    Returns
    -------
    tuple of DueJob
        What is longest overdue first
    """
    rows = [
        DueJob(job, done.get(job.key), job.days - done.get(job.key, since))
        for job in jobs_of(found)
    ]
    return tuple(sorted(rows, key=lambda row: (row.left, row.job.key)))


def brought_forward(
    rows: Sequence[DueJob], kinds: tuple[str, ...], days: float
) -> tuple[DueJob, ...]:
    """Jobs of some kinds moved before a day by which harm is likely.

    Parameters
    ----------
    rows : sequence of DueJob
        From :func:`due_jobs`
    kinds : tuple of str
        What the keys of these jobs begin with
    days : float
        Until that day, [d]

    Returns
    -------
    tuple of DueJob
        What is longest overdue first
    """
    moved = (
        replace(row, left=min(row.left, days)) if row.job.key.startswith(kinds) else row
        for row in rows
    )
    return tuple(sorted(moved, key=lambda row: (row.left, row.job.key)))
