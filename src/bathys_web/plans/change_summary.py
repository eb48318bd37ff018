"""What the last change moved: the figures at the head of the page, before and after."""

from typing import Any

from bathys.network import NotSolved
from bathys.units import System
from bathys_web.plans.comparing import counts_words, headline_rows
from bathys_web.plans.headlines import headlines_of
from bathys_web.plans.models import Revision

__all__ = ["moved_by"]

_MOST_ROWS = 3


def moved_by(before: Revision, head: Revision, units: System) -> dict[str, Any]:
    """What stands otherwise than before.

    Parameters
    ----------
    before : Revision
        The revision that stood in the page
    head : Revision
        The one that stands now
    units : str
        The system shown

    Returns
    -------
    dict
        What was done in words, figures of the head of the page before and after, how many more
        there are, and what there was and is to fix where that differs; empty where the plan of
        before cannot be worked out
    """
    try:
        one, two = headlines_of(before), headlines_of(head)
    except NotSolved:
        return {}
    rows = headline_rows(one.figures, two.figures, units)
    counts = [counts_words(told.fault, told.warning) for told in (one, two)]
    return {
        "words": _words(before, head),
        "rows": rows[:_MOST_ROWS],
        "more": max(len(rows) - _MOST_ROWS, 0),
        "counts": counts if counts[0] != counts[1] else [],
    }


def _words(before: Revision, head: Revision) -> str:
    if before.parent_id == head.pk:
        return f"Undone: {before.what_changed}"
    words: str = head.what_changed
    return words[:1].upper() + words[1:]
