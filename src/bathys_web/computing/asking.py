"""Asking for a computation, and looking at what came of it."""

import hashlib
import json
import threading
import time
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.db import transaction

from bathys.engine import engine_name
from bathys.plan import Plan, to_file
from bathys_web.computing.kinds import kind_of
from bathys_web.computing.models import Computation
from bathys_web.computing.queue import defer
from bathys_web.computing.results import BadResult, unpack

__all__ = [
    "MOST_OPEN",
    "Answer",
    "answer_to",
    "ask",
    "ask_and_wait",
    "last_answer",
    "so_far_of",
    "stop",
]

MOST_OPEN = 12
"""Computations of one user that wait or run at a time; more are refused until some are done."""

_OPEN = (Computation.State.WAITING, Computation.State.RUNNING)
_MOST_KEPT = 48
_LOOK = 0.03  # between two looks for an answer [s]
_TOO_MANY = (
    f"{MOST_OPEN} things of yours are being worked out already. Wait for one, or stop one, then "
    "ask again."
)


@dataclass(frozen=True)
class Answer:
    """What is known of a computation.

    Attributes
    ----------
    state : str
        ``unasked``, ``waiting``, ``running``, ``done``, ``failed``, ``stopped`` or ``refused``
    number : int
        Its number, to stop it by
    percent : int
        How far it is
    result : object
        Its result, once it is done
    why : str
        Why there is none
    """

    state: str = "unasked"
    number: int = 0
    percent: int = 0
    result: Any = None
    why: str = ""

    @property
    def is_done(self) -> bool:
        """Whether its result is there."""
        return self.state == "done"

    @property
    def is_open(self) -> bool:
        """Whether it will come if one waits."""
        return self.state in ("waiting", "running")


def _key(kind: str, content: str, words: Mapping[str, Any]) -> str:
    """Name of a result: what is computed, by which engine, of which plan, and what else was
    asked."""
    text = json.dumps([kind, engine_name(), content, words], sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()


_results: OrderedDict[str, Any] = OrderedDict()
_lock = threading.Lock()


def _result_of(key: str) -> Any:
    """A result that is done; the last few are kept, since they never change."""
    with _lock:
        if key in _results:
            _results.move_to_end(key)
            return _results[key]
    packed = Computation.objects.values_list("result", flat=True).get(key=key)
    assert packed is not None  # noqa: S101 - it is done
    found = unpack(packed)
    with _lock:
        _results[key] = found
        while len(_results) > _MOST_KEPT:
            _results.popitem(last=False)
    return found


def answer_to(kind: str, content: str, words: Mapping[str, Any]) -> Answer:
    """What is known of a computation. Writes nothing.

    Parameters
    ----------
    kind : str
        Name of the kind
    content : str
        Name of the plan's content
    words : mapping
        What else was asked, as plain data

    Returns
    -------
    Answer
        Its state, and its result once there is one
    """
    key = _key(kind, content, words)
    row = Computation.objects.filter(key=key).defer("document", "result").first()
    if row is None:
        return Answer()
    if row.state != Computation.State.DONE:
        return Answer(row.state, row.pk, round(100.0 * row.reached), why=row.why)
    try:
        return Answer("done", row.pk, 100, _result_of(key))
    except BadResult:
        return Answer()  # of another server's key: it is asked for again


def last_answer(kind: str, page: str, content: str) -> tuple[Any, datetime] | None:
    """The latest result of a kind for a page, whatever else was asked. Writes nothing.

    Parameters
    ----------
    kind, page : str
        Name of the kind, and of whose page it is
    content : str
        Name of the plan's content

    Returns
    -------
    (object, datetime) or None
        The result, and when it was found; None where there is none yet
    """
    rows = Computation.objects.filter(kind=kind, page=page, content=content)
    rows = rows.filter(state=Computation.State.DONE, ended__isnull=False)
    last = rows.order_by("-ended").values_list("key", "ended").first()
    if last is None or last[1] is None:
        return None
    try:
        return _result_of(last[0]), last[1]
    except BadResult:
        return None


@transaction.atomic
def ask(
    kind: str, content: str, plan: Plan, words: Mapping[str, Any], user: User, page: str
) -> Answer:
    """Ask for a computation, unless it is there or on its way.

    Parameters
    ----------
    kind, content : str
        Kind of the computation, and the name of the plan's content
    words : mapping of str to object
        What is asked for
    plan : Plan
        The plan
    user : user
        Who asks
    page : str
        Whose page it is for: what was asked for it before, of what the plan said then, is
        given up

    Returns
    -------
    Answer
        As :func:`answer_to`; ``refused`` if too many of the user's are open
    """
    if "\\u0000" in json.dumps(words):  # the one letter that the database cannot keep
        return Answer("refused", why="This holds a letter that cannot be kept; type it again.")
    known = answer_to(kind, content, words)
    if known.is_done:
        return known
    # One after the other for each user, so that the cap holds whatever comes at once.
    get_user_model().objects.select_for_update().get(pk=user.pk)
    key = _key(kind, content, words)
    _give_up(page, content)
    open_now = (
        Computation.objects.filter(asked_by_id=user.pk, state__in=_OPEN).exclude(key=key).count()
    )
    row = Computation.objects.select_for_update().defer("result").filter(key=key).first()
    if row is not None and row.state in _OPEN:
        if row.page != page:
            Computation.objects.filter(pk=row.pk).update(page="")
        return answer_to(kind, content, words)
    if open_now >= MOST_OPEN:
        return Answer("refused", why=_TOO_MANY)
    fresh = {
        "kind": kind,
        "content": content,
        "engine": engine_name(),
        "page": page,
        "asked_by_id": user.pk,
        "words": dict(words),
        "document": to_file(plan),
        "state": Computation.State.WAITING,
        "attempts": 0,
        "reached": 0.0,
        "why": "",
        "result": None,
        "heard": None,
        "ended": None,
        "worker": "",
        "lane": Computation.Lane.LONG
        if kind_of(kind).is_long(plan, words)
        else Computation.Lane.QUICK,
    }
    row, _ = Computation.objects.update_or_create(key=key, defaults=fresh)
    defer(row.key, row.lane, open_now)
    return answer_to(kind, content, words)


def ask_and_wait(
    kind: str, content: str, plan: Plan, words: Mapping[str, Any], user: User, page: str
) -> Answer:
    """Ask for a computation and wait for a moment: what takes no longer is there at once.

    Parameters
    ----------
    kind, content : str
        Kind of the computation, and the name of the plan's content
    plan : Plan
        The plan
    words : mapping of str to object
        What is asked for
    user : user
        Who asks
    page : str
        Whose page it is for

    Returns
    -------
    Answer
        As :func:`ask`
    """
    found = ask(kind, content, plan, words, user, page)
    until = time.monotonic() + settings.PATIENCE
    while found.is_open and time.monotonic() < until:
        time.sleep(_LOOK)
        found = answer_to(kind, content, words)
    return found


def _give_up(page: str, content: str) -> None:
    """Stop what was asked for the same page before, of a plan that has changed since."""
    old = Computation.objects.filter(page=page, state__in=_OPEN).exclude(content=content)
    old.update(state=Computation.State.STOPPED)


def so_far_of(answer: Answer) -> Any:
    """What a computation that runs has found so far.

    Parameters
    ----------
    answer : Answer
        What is known of it

    Returns
    -------
    object
        None if it shows nothing yet, or does not run
    """
    rows = Computation.objects.filter(pk=answer.number, state=Computation.State.RUNNING)
    packed = rows.values_list("result", flat=True).first()
    try:
        return unpack(packed) if packed else None
    except BadResult:
        return None


def stop(number: int, page: str) -> None:
    """Give up a computation that is open and only this page waits for.

    Parameters
    ----------
    number : int
        Its number
    page : str
        The page that waits
    """
    Computation.objects.filter(pk=number, page=page, state__in=_OPEN).update(
        state=Computation.State.STOPPED
    )
