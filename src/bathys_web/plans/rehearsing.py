"""Plans followed through time, one after the other, by a thread that gives way to those who edit.

A large plan takes ten seconds of every processor. A page that waited for that would keep a whole
worker waiting, so it asks again until the answer is there; what nobody wants any longer, since the
plan was changed, is given up.
"""

import os
import threading
from collections import OrderedDict
from concurrent.futures import CancelledError, Future, ThreadPoolExecutor
from contextlib import suppress
from dataclasses import dataclass, field

from bathys.network import NotSolved
from bathys.pipeline import Assessment, Rehearsed, rehearse_plan
from bathys.simulation import Abandoned, NotSimulated

__all__ = ["PATIENT", "Rehearsals", "give_way"]

PATIENT = 120.0
"""How long one waits who cannot ask again [s]."""

_MOST_KEPT = 48
_NICE = 10  # of the thread that follows plans, and of those it starts


def give_way() -> None:
    """Let whoever serves a page go first. A thread has a niceness of its own here."""
    with suppress(OSError):
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), _NICE)


@dataclass
class _Job:
    """One plan being followed, and for which desk."""

    desk: str
    unwanted: threading.Event = field(default_factory=threading.Event)
    answer: "Future[Rehearsed | str]" = field(default_factory=Future)


class Rehearsals:
    """Rehearsals of plans by their content's name, the last few kept."""

    def __init__(self) -> None:
        self._jobs: OrderedDict[str, _Job] = OrderedDict()
        self._lock = threading.Lock()
        self._thread: ThreadPoolExecutor | None = None

    def ask(
        self, name: str, assessment: Assessment, desk: str, patience: float
    ) -> Rehearsed | str | None:
        """The rehearsal of a plan; it is begun if nobody has asked for it yet.

        Parameters
        ----------
        name : str
            Name of the plan's content
        assessment : Assessment
            The plan worked out
        desk : str
            For whom: what was asked for the same desk before is given up
        patience : float
            How long to wait for it, [s]

        Returns
        -------
        Rehearsed, str or None
            The rehearsal; a sentence that says why there is none; none if it is not there yet
            and is to be asked for again
        """
        job = self._job(name, assessment, desk)
        try:
            return job.answer.result(timeout=patience)
        except (TimeoutError, CancelledError, Abandoned):
            return None  # what was given up is begun anew for whoever asks again

    def _job(self, name: str, assessment: Assessment, desk: str) -> _Job:
        with self._lock:
            job = self._jobs.get(name)
            if job is None or job.unwanted.is_set():
                self._give_up(desk)
                job = self._jobs[name] = _Job(desk)
                if self._thread is None:  # made here, since a process may fork before
                    self._thread = ThreadPoolExecutor(1, "rehearsal", initializer=give_way)
                job.answer = self._thread.submit(_rehearsed, assessment, job.unwanted)
            self._jobs.move_to_end(name)
            while len(self._jobs) > _MOST_KEPT:
                self._jobs.popitem(last=False)
            return job

    def _give_up(self, desk: str) -> None:
        for job in self._jobs.values():
            if desk and job.desk == desk and not job.answer.done():
                job.unwanted.set()
                job.answer.cancel()


def _rehearsed(assessment: Assessment, unwanted: threading.Event) -> Rehearsed | str:
    try:
        return rehearse_plan(assessment, is_wanted=lambda: not unwanted.is_set())
    except (NotSimulated, NotSolved) as error:
        return f"This plan is not followed through time: {error}"
