"""Long runs through time: put on a list, followed one after the other by a thread that gives way.

Each says how far it is, and is given up as soon as its place on the list is gone: stopped by hand,
or outlived by its plan. A run that was cut off with its process is begun anew when asked for.
"""

import json
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from threading import Lock
from typing import Any

from django.db import connection, transaction
from django.utils import timezone

from bathys.simulation import Abandoned
from bathys_web.plans.models import LongRun, SavedPlan
from bathys_web.plans.rehearsing import give_way

__all__ = ["Work", "ask_for_long_run", "stop_long_run"]

Work = Callable[[Callable[[float], bool]], dict[str, Any]]
"""Follows a plan, asking with the share of its way whether it is still wanted."""

_GIVEN_UP = 900.0  # a run not heard of for so long was cut off with its process [s]
_TOLD = 0.5  # between two words of how far it is [s]
_MOST_KEPT = 20  # of a plan

_list: ThreadPoolExecutor | None = None
_lock = Lock()


def ask_for_long_run(saved: SavedPlan, content: str, wish: object, work: Work) -> LongRun:
    """The run on the list; put there if it is not yet.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    content : str
        Name of what the plan says now: unfinished runs of what it said before are given up
    wish : object
        What was asked for, as plain data
    work : Work
        How to follow it

    Returns
    -------
    LongRun
        With its result, or how far it is
    """
    key = json.dumps([content, wish], sort_keys=True)
    now = timezone.now()
    with transaction.atomic():
        runs = LongRun.objects.filter(plan=saved)
        runs.filter(result__isnull=True).exclude(
            wish__startswith=json.dumps([content])[:-1]
        ).delete()
        for old in runs.order_by("-begun")[_MOST_KEPT:]:
            old.delete()
        run, is_new = runs.select_for_update().get_or_create(plan=saved, wish=key)
        is_lost = run.result is None and (now - run.heard).total_seconds() > _GIVEN_UP
        if is_new or is_lost:
            run.heard = now
            run.save()
            transaction.on_commit(lambda: _begin(run.pk, work))
    return run


def stop_long_run(saved: SavedPlan, number: int) -> None:
    """Give up a run of a plan that has not ended."""
    LongRun.objects.filter(plan=saved, pk=number, result__isnull=True).delete()


def _begin(number: int, work: Work) -> None:
    global _list  # noqa: PLW0603 - made here, since a process may fork before
    with _lock:
        if _list is None:
            _list = ThreadPoolExecutor(1, "long-run", initializer=give_way)
        _list.submit(_follow, number, work)


def _follow(number: int, work: Work) -> None:
    run = LongRun.objects.filter(pk=number)
    told = 0.0

    def is_wanted(share: float) -> bool:
        nonlocal told
        if time.monotonic() - told < _TOLD:
            return True
        told = time.monotonic()
        return bool(run.update(reached=share, heard=timezone.now()))

    try:
        with suppress(Abandoned):
            if is_wanted(0.0):
                run.update(result=work(is_wanted))
    finally:
        connection.close()
