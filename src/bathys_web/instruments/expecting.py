"""What a plan's instruments are expected to read, as it is asked of the queue."""

import threading
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from cachetools import LRUCache
from django.contrib.auth.models import User

from bathys.evaluation import Evaluation
from bathys.instruments import Band, Channel, Series, Signature, signatures_of, usual_readings
from bathys.scenarios.failures import Failure
from bathys.scenarios.periodic_state import find_periodic_state
from bathys_web.computing.asking import Answer, answer_to, ask
from bathys_web.instruments.models import BoardChannel
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["Expected", "LookOfFailures", "channels_of_words", "expected_answer", "look_of_failures"]


@dataclass(frozen=True)
class Expected:
    """What instruments are expected to read.

    Attributes
    ----------
    bands : mapping of str to Band
        By the channel's number
    noticed : tuple of (Failure, float or None)
        How soon each failure is noticed, [s]; None where it is not
    unfollowed : str
        Why the plan is not followed through time, so that nothing is expected of its levels; empty
        where it is
    """

    bands: Mapping[str, Band]
    noticed: tuple[tuple[Failure, float | None], ...]
    unfollowed: str = ""


@dataclass(frozen=True)
class LookOfFailures:
    """What instruments read while all is well, and after each failure.

    Attributes
    ----------
    usual : mapping of str to Series
        By the channel's number
    signatures : tuple of Signature
        Of each failure
    """

    usual: Mapping[str, Series]
    signatures: tuple[Signature, ...]


def _words(channels: Sequence[BoardChannel]) -> dict[str, Any]:
    return {"channels": [[str(c.pk), c.kind, c.part, c.mark] for c in channels]}


def channels_of_words(words: Mapping[str, Any]) -> tuple[Channel, ...]:
    """Channels as they were asked of the queue.

    Parameters
    ----------
    words : mapping of str to object
        What was asked

    Returns
    -------
    tuple of Channel
        The channels
    """
    return tuple(
        Channel(str(k), str(kind), str(part), float(m)) for k, kind, part, m in words["channels"]
    )


def expected_answer(
    saved: SavedPlan, channels: Sequence[BoardChannel], user: User | None = None
) -> Answer:
    """What is known of what instruments are expected to read; asked for, where somebody asks.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    channels : sequence of BoardChannel
        What is measured
    user : user, optional
        Who asks for it, if it is not there

    Returns
    -------
    Answer
        Its result is an :class:`Expected`, or a sentence why there is none
    """
    words, content = _words(channels), saved.current.physics_hash
    known = answer_to("instruments", content, words)
    if known.is_done or known.is_open or user is None:
        return known
    page = f"instruments-{saved.pk}"
    return ask("instruments", content, plan_of(saved.current), words, user, page)


_kept: LRUCache[tuple[str, tuple[Channel, ...]], LookOfFailures] = LRUCache(maxsize=4)
_lock = threading.Lock()


def look_of_failures(
    content: str, found: Evaluation, channels: tuple[Channel, ...]
) -> LookOfFailures:
    """What instruments read after each failure; the last few are kept, since it takes seconds.

    Parameters
    ----------
    content : str
        Name of the plan's content
    found : Evaluation
        The numbers of the plan
    channels : tuple of Channel
        What is measured

    Returns
    -------
    LookOfFailures
        Of each failure

    Raises
    ------
    NotSimulated, NotSolved
        If the plan is not followed
    """
    with _lock:
        if (content, channels) not in _kept:
            periodic = find_periodic_state(found.plan)
            _kept[content, channels] = LookOfFailures(
                usual_readings(found, periodic, channels),
                signatures_of(found, periodic, channels),
            )
        return _kept[content, channels]
