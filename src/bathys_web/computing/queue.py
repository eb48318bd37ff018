"""The queue: procrastinate on the same PostgreSQL. It only wakes workers; the table holds what is
known of each computation."""

from procrastinate.contrib.django import app

__all__ = ["TASK", "defer"]

TASK = "bathys.compute"


def defer(key: str, lane: str, open_before: int, wait: int = 0) -> None:
    """Put a computation on the queue, in the transaction that is open.

    Parameters
    ----------
    key : str
        Its key
    lane : str
        Its lane
    open_before : int
        How many of the same user are open: the more, the later its turn
    wait : int
        Not before so long, [s]
    """
    when = {"schedule_in": {"seconds": wait}} if wait else {}
    job = app.configure_task(TASK, queue=lane, priority=-open_before, allow_unknown=True, **when)
    job.defer(key=key)
