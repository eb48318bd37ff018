"""Names for what a plan says: all of it, or only what figures come of."""

import hashlib
from typing import Any

from bathys.plan.model import GROUPS, Plan

__all__ = ["document_hash", "physics_hash"]

_WORDS_OF_PARTS = {
    "name",
    "note",
    "typed",
    "along",
    "spot",
    "route",
    "cover",
    "stage",
    "start_hole",
    "end_hole",
}
_WORDS: dict[str, Any] = {
    "name": True,
    "datum": True,
    "ground": True,
    "brief": {"purpose", "typed", "budget"},
    "site": {"currency", "typed", "blocks"},
    **{group: {"__all__": _WORDS_OF_PARTS} for group in GROUPS},
}
"""What no figure comes of: names, notes, what was typed, where parts are drawn or stand, and
how pipes go through walls."""


def document_hash(plan: Plan) -> str:
    """A name for all that a plan says.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    str
        The same for equal plans, and for no others
    """
    return _hash(plan.model_dump_json(by_alias=True, exclude_none=True))


def physics_hash(plan: Plan) -> str:
    """A name for what figures and findings come of.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    str
        The same for plans that differ in words and in their drawing alone
    """
    return _hash(plan.model_dump_json(by_alias=True, exclude_none=True, exclude=_WORDS))


def _hash(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
