"""What workers do between computations: other applications put their own tidying here."""

from collections.abc import Callable

__all__ = ["housekeeping", "keep_house"]

_TASKS: list[Callable[[], object]] = []


def housekeeping(task: Callable[[], object]) -> Callable[[], object]:
    """Register what is done every few seconds by every worker; it must be short, and harm nothing
    if two do it at a time.

    Parameters
    ----------
    task : callable
        What is to be done

    Returns
    -------
    callable
        The same, registered
    """
    _TASKS.append(task)
    return task


def keep_house() -> None:
    """Do all of it."""
    for task in _TASKS:
        task()
