"""When both parts of a trial are measured and photographed, and what of it is due."""

from collections.abc import Sequence
from dataclasses import dataclass

__all__ = ["TrialDays", "day_of_reading", "due_parts", "trial_days"]

_WEEK = 7
_DAILY = {"eaten": _WEEK}  # readings that cost nothing: daily for a week, then weekly
_EVERY = {"eaten": _WEEK, "fish": 2 * _WEEK}  # netting is hard on fish (common practice) [d]


@dataclass(frozen=True, slots=True)
class TrialDays:
    """When something of a trial is done.

    Attributes
    ----------
    last : int or None
        The latest day on which it was to be done, counted from its beginning, [d]; none where it is
        done when it comes, as a harvest is
    next : int or None
        The next day, [d]
    """

    last: int | None
    next: int | None


def _days(what: str, count: int) -> list[int]:
    """The first days on which something is done, and one more."""
    daily = _DAILY.get(what, 0)
    every = _EVERY.get(what, _WEEK)
    return [*range(daily), *(daily + every * n for n in range(max(count - daily, 0) + 1))]


def trial_days(what: str, age: float) -> TrialDays:
    """When something of a trial is done: daily in its first week where that costs nothing, then
    weekly; fish are netted every other week; a harvest is weighed when it comes.

    Parameters
    ----------
    what : str
        A key of :data:`~bathys.fieldlog.TRIAL_MEASURES`, or ``photo``
    age : float
        How long the trial has run, [d]

    Returns
    -------
    TrialDays
        The latest day and the next
    """
    if what in ("harvest", "head"):
        return TrialDays(None, None)
    days = _days(what, int(age) + 1)
    return TrialDays(max(day for day in days if day <= age), min(day for day in days if day > age))


def due_parts(
    what: str, age: float, done: Sequence[tuple[str, Sequence[float]]]
) -> tuple[str, ...]:
    """Parts of a trial at which something is to be done now.

    Parameters
    ----------
    what : str
        A key of :data:`~bathys.fieldlog.TRIAL_MEASURES`, or ``photo``
    age : float
        How long the trial has run, [d]
    done : sequence of (str, sequence of float)
        Of each part its id, and how long ago it was done there, [d]

    Returns
    -------
    tuple of str
        Ids of those at which it was not done since the latest day for it
    """
    last = trial_days(what, age).last
    if last is None:
        return ()
    return tuple(id_ for id_, ago in done if not any(day <= age - last for day in ago))


def day_of_reading(what: str, count: int) -> int | None:
    """On which day of a trial so many readings are there.

    Parameters
    ----------
    what : str
        A key of :data:`~bathys.fieldlog.TRIAL_MEASURES`
    count : int
        How many of either part

    Returns
    -------
    int or None
        From its beginning, [d]; none for what comes when it comes
    """
    if what in ("harvest", "head"):
        return None
    return _days(what, count)[count - 1]
