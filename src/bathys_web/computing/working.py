"""What a worker does with one computation: claim it, beat its heart, publish its result once."""

import logging
import threading
import time
from datetime import timedelta

from django.db import connection, transaction
from django.utils import timezone

from bathys.plan import plan_from_data
from bathys.simulation import Abandoned
from bathys_web.computing.kinds import kind_of
from bathys_web.computing.models import Computation
from bathys_web.computing.queue import TASK, defer
from bathys_web.computing.results import pack

__all__ = ["STALE", "closing", "prune", "take_up_stalled", "work_on"]

STALE = 8.0
"""A computation not heard of for so long has lost its worker [s]."""

_BEAT = 2.0  # between two beats of its heart [s]
_TOLD = 0.5  # between two words of how far it is [s]
_QUICK = 3.0  # a computation that takes longer goes on in the long lane [s]
_MOST_ATTEMPTS = 3
_KEPT = timedelta(days=14)
_MOST_ROWS = 3000
_State = Computation.State
log = logging.getLogger(__name__)

closing = threading.Event()
"""Set when this process is to end: what it computes goes back on the queue."""


class _Heart:
    """Beats in a thread of its own while a computation runs, and knows whether it is wanted."""

    def __init__(self, key: str, worker: str) -> None:
        self._mine = {"key": key, "worker": worker, "state": _State.RUNNING}
        self._ends, self._reached, self._told = threading.Event(), 0.0, 0.0
        self.is_wanted = True
        self._thread = threading.Thread(target=self._beat, name="heart", daemon=True)
        self._thread.start()

    def tell(self, share: float) -> bool:
        """Note how far it is."""
        self._reached = share
        if time.monotonic() - self._told > _TOLD:
            self._told = time.monotonic()
            self._note()
        return self.is_wanted

    def _note(self) -> None:
        noted = Computation.objects.filter(**self._mine).update(
            heard=timezone.now(), reached=self._reached
        )
        self.is_wanted = self.is_wanted and noted == 1

    def _beat(self) -> None:
        try:
            while not self._ends.wait(_BEAT):
                self._note()
        finally:
            connection.close()

    def end(self) -> None:
        """Stop beating."""
        self._ends.set()
        self._thread.join()


def _stalled() -> dict[str, object]:
    return {"state": _State.RUNNING, "heard__lt": timezone.now() - timedelta(seconds=STALE)}


def work_on(key: str, worker: str, lane: str) -> None:
    """Compute what waits under a key, unless somebody else does or it is no longer wanted.

    Parameters
    ----------
    key : str
        The computation's key
    worker : str
        Name of this worker's turn, unlike any other
    lane : str
        The lane it works in: what turns out long in the quick lane is handed on
    """
    claimed = Computation.objects.filter(key=key, state=_State.WAITING).update(
        state=_State.RUNNING, worker=worker, heard=timezone.now()
    )
    if not claimed:
        return
    row = Computation.objects.defer("result").get(key=key)
    heart, begun = _Heart(key, worker), time.monotonic()
    is_slow = False

    def is_wanted(share: float) -> bool:
        nonlocal is_slow
        is_slow = lane == Computation.Lane.QUICK and time.monotonic() - begun > _QUICK
        return heart.tell(share) and not is_slow and not closing.is_set()

    mine = Computation.objects.filter(key=key, worker=worker, state=_State.RUNNING)
    try:
        result = kind_of(row.kind).compute(plan_from_data(row.document), row.words, is_wanted)
        mine.update(state=_State.DONE, result=pack(result), ended=timezone.now(), reached=1.0)
    except Abandoned:
        if is_slow or closing.is_set():
            _hand_on(key, worker, Computation.Lane.LONG if is_slow else row.lane)
    except Exception:
        log.exception("computation %s of kind %s failed", key, row.kind)
        why = "Something broke while this was worked out. Ask again; if it breaks again, tell us."
        mine.update(state=_State.FAILED, why=why, ended=timezone.now())
    finally:
        heart.end()


def _hand_on(key: str, worker: str, lane: str) -> None:
    """Back on the queue, in this lane."""
    with transaction.atomic():
        moved = Computation.objects.filter(key=key, worker=worker, state=_State.RUNNING).update(
            state=_State.WAITING, lane=lane, reached=0.0
        )
        if moved:
            row = Computation.objects.only("asked_by").get(key=key)
            others = Computation.objects.filter(
                asked_by=row.asked_by_id, state__in=(_State.WAITING, _State.RUNNING)
            )
            defer(key, lane, max(others.count() - 1, 0))


def take_up_stalled() -> int:
    """Put computations whose worker is gone back on the queue; one that lost three is given up.

    Returns
    -------
    int
        How many were taken up
    """
    with transaction.atomic():
        rows = Computation.objects.select_for_update(skip_locked=True).only("key", "attempts")
        stalled = list(rows.filter(**_stalled()))
        for row in stalled:
            lost = Computation.objects.filter(pk=row.pk)
            if row.attempts + 1 >= _MOST_ATTEMPTS:
                why = "It was begun three times and cut off each time. Ask for a smaller step."
                lost.update(state=_State.FAILED, why=why, ended=timezone.now())
                continue
            lost.update(state=_State.WAITING, attempts=row.attempts + 1, reached=0.0)
            row.refresh_from_db(fields=("lane",))
            defer(row.key, row.lane, 0)
    return len(stalled)


def prune() -> int:
    """Drop results that are old, and the oldest where there are very many.

    Returns
    -------
    int
        How many were dropped
    """
    ended = Computation.objects.filter(ended__isnull=False)
    dropped, _ = ended.filter(ended__lt=timezone.now() - _KEPT).delete()
    stopped = Computation.objects.filter(state=_State.STOPPED)
    dropped += stopped.filter(asked__lt=timezone.now() - timedelta(days=1)).delete()[0]
    last = ended.order_by("-ended").values_list("ended", flat=True)[_MOST_ROWS:].first()
    if last is not None:
        dropped += ended.filter(ended__lte=last).delete()[0]
    with connection.cursor() as cursor:  # turns of workers that were killed
        cursor.execute(
            "DELETE FROM procrastinate_jobs WHERE task_name = %s AND status = 'doing' "
            "AND worker_id IS NULL", [TASK],
        )  # fmt: skip
    return dropped
