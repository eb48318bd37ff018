"""What falls due while nobody who knows the layout is there."""

import math
from collections.abc import Sequence

from bathys.fieldlog.due import DueJob
from bathys.routine import Job

__all__ = ["away_days"]


def away_days(rows: Sequence[DueJob], first: int, count: int) -> tuple[tuple[Job, ...], ...]:
    """The jobs of each day of an absence.

    Parameters
    ----------
    rows : sequence of DueJob
        The jobs, by when they are due
    first : int
        Until the first day, 0 for today, [d]
    count : int
        How many days, [d]

    Returns
    -------
    tuple of tuple of Job
        Day by day. What is overdue is due on the first day; from then on each job comes again after
        its interval
    """
    days: list[list[Job]] = [[] for _ in range(count)]
    for row in rows:
        due = max(math.ceil(row.left - 1e-9), 0)
        if due < first:
            due = first + (-(first - due) % row.job.days if due > 0 or row.left >= 0.0 else 0)
        for day in range(due, first + count, row.job.days):
            days[day - first].append(row.job)
    return tuple(tuple(jobs) for jobs in days)
