"""What a worker does with one computation: claim it, beat its heart, publish its result once."""

import logging
import threading
import time
from datetime import timedelta
from typing import Any
from uuid import uuid4

from django.db import connection, models, transaction
from django.utils import timezone

from bathys.engine import engine_name
from bathys.plan import plan_from_data
from bathys.simulation import Abandoned
from bathys_web.computing.kinds import kind_of
from bathys_web.computing.models import Computation
from bathys_web.computing.queue import TASK, defer
from bathys_web.computing.results import pack

__all__ = ["STALE", "closing", "prune", "take_up_stalled", "work_on"]

STALE = 8.0
"""A computation not heard of for so long has lost its worker [s]."""

_BEAT = 0.5  # between two beats of its heart [s]
_QUICK = 3.0  # a computation that takes longer goes on in the long lane [s]
_TURN = 5.0  # after so long, and every so often, another user's comes in between [s]
_DEEPEST = 3  # so many lie within each other at most
_MOST = 900.0  # a computation that takes longer is given up [s]
_MOST_ATTEMPTS = 3
_ANOTHERS = 3  # until a worker of the right engine may look [s]
_KEPT = timedelta(days=14)
_MOST_ROWS = 3000
_State = Computation.State
log = logging.getLogger(__name__)

closing = threading.Event()
"""Set when this process is to end: what it computes goes back on the queue."""


class TakesTooLong(Exception):
    """A computation has taken more than its time."""


class _Heart:
    """Beats in a thread of its own while a computation runs: tells the table how far it is, and
    hears whether it is still wanted."""

    def __init__(self, key: str, worker: str) -> None:
        self._mine = {"key": key, "worker": worker, "state": _State.RUNNING}
        self._ends = threading.Event()
        self.reached, self.is_wanted = 0.0, True
        self._thread = threading.Thread(target=self._beat, name="heart", daemon=True)
        self._thread.start()

    def _beat(self) -> None:
        try:
            while not self._ends.wait(_BEAT):
                noted = self.rows.update(heard=timezone.now(), reached=self.reached)
                self.is_wanted = self.is_wanted and noted == 1
        finally:
            connection.close()

    @property
    def rows(self) -> models.QuerySet[Computation]:
        """The computation, as long as this worker has it."""
        return Computation.objects.filter(**self._mine)

    def end(self) -> None:
        """Stop beating."""
        self._ends.set()
        self._thread.join()


class _Turns:
    """Lets another user's computation of the long lane come in between, whole, every so often: what
    runs for minutes holds nobody else up, and loses nothing of its way."""

    def __init__(self, users: tuple[int | None, ...]) -> None:
        self._users = users  # whose computations lie within each other here
        self._lock, self._last, self.lent = threading.Lock(), time.monotonic(), 0.0

    def give(self) -> None:
        """Let one come in between, if it is time and one waits. A computation may ask from several
        threads: one of them lends its time, and the others wait for it."""
        with self._lock:
            now = time.monotonic()
            if len(self._users) >= _DEEPEST or now - self._last < _TURN:
                return
            waiting = Computation.objects.filter(state=_State.WAITING, lane=Computation.Lane.LONG)
            others = waiting.filter(engine=engine_name()).exclude(
                asked_by__in=[u for u in self._users if u]
            )
            key = others.order_by("asked").values_list("key", flat=True).first()
            if key is not None:
                work_on(key, uuid4().hex, Computation.Lane.LONG, self._users)
            if threading.current_thread() is not threading.main_thread():
                connection.close()
            self._last = time.monotonic()
            self.lent += self._last - now


class _Wanted:
    """What a computation tells of its way, and whether it is to go on."""

    def __init__(self, heart: _Heart, turns: _Turns, lane: str) -> None:
        self._heart, self._turns, self._lane = heart, turns, lane
        self._begun, self.is_slow = time.monotonic(), False

    def __call__(self, share: float) -> bool:
        self._heart.reached = share
        if self._lane == Computation.Lane.LONG:
            self._turns.give()
        took = time.monotonic() - self._begun - self._turns.lent
        self.is_slow = self._lane == Computation.Lane.QUICK and took > _QUICK
        if took > _MOST:
            raise TakesTooLong
        return self._heart.is_wanted and not self.is_slow and not closing.is_set()

    def show(self, so_far: Any) -> None:
        """Keep what is found so far where the result is to stand."""
        self._heart.rows.update(result=pack(so_far))


def _stalled() -> dict[str, object]:
    return {"state": _State.RUNNING, "heard__lt": timezone.now() - timedelta(seconds=STALE)}


def work_on(key: str, worker: str, lane: str, within: tuple[int | None, ...] = ()) -> None:
    """Compute what waits under a key, unless somebody else does or it is no longer wanted.

    Parameters
    ----------
    key : str
        The computation's key
    worker : str
        Name of this worker's turn, unlike any other
    lane : str
        The lane it works in: what turns out long in the quick lane is handed on
    within : tuple of int
        The users whose computations this one comes in between
    """
    waiting = Computation.objects.filter(key=key, state=_State.WAITING)
    claimed = waiting.filter(engine=engine_name()).update(
        state=_State.RUNNING, worker=worker, heard=timezone.now()
    )
    if not claimed:
        if waiting.exists():  # while an update is under way: it is another engine's to compute
            defer(key, lane, 0, _ANOTHERS)
        return
    row = Computation.objects.defer("result").get(key=key)
    heart = _Heart(key, worker)
    wanted = _Wanted(heart, _Turns((*within, row.asked_by_id)), lane)
    mine = Computation.objects.filter(key=key, worker=worker, state=_State.RUNNING)
    try:
        result = kind_of(row.kind).compute(plan_from_data(row.document), row.words, wanted)
        mine.update(state=_State.DONE, result=pack(result), ended=timezone.now(), reached=1.0)
    except Abandoned:
        if wanted.is_slow or closing.is_set():
            _hand_on(key, worker, Computation.Lane.LONG if wanted.is_slow else row.lane)
    except TakesTooLong:
        why = "This takes longer than a quarter of an hour. Ask for fewer hours, or a smaller plan."
        mine.update(state=_State.FAILED, why=why, ended=timezone.now())
    except Exception:
        log.exception("computation %s of kind %s failed", key, row.kind)
        why = "This calculation failed. Try again; if it fails again, tell us."
        mine.update(state=_State.FAILED, why=why, ended=timezone.now())
    finally:
        heart.end()


def _hand_on(key: str, worker: str, lane: str) -> None:
    """Back on the queue, in this lane."""
    with transaction.atomic():
        moved = Computation.objects.filter(key=key, worker=worker, state=_State.RUNNING).update(
            state=_State.WAITING, lane=lane, reached=0.0, result=None
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
            "AND worker_id IS NULL",
            [TASK],
        )
    return dropped
