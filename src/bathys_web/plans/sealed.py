"""Offers that carry what they would do, so that taking one searches for nothing again.

What was worked out goes into the page signed, and comes back with the press of the button; it holds
for the very plan that it was worked out for.
"""

from collections.abc import Callable, Sequence
from typing import Any

from django.core import signing
from django.http import QueryDict

from bathys.edits import Edit, EditRefused
from bathys.plan import Plan, document_hash
from bathys.units import System
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.offer_context import OfferContext

__all__ = ["GONE", "Seal", "seal_for", "take_sealed"]

GONE = "That offer no longer stands; here is the plan as it is."

_SALT = "offer"

Seal = Callable[[Sequence[Edit], str], str]
"""From edits, and what they change in words, to what goes into the page."""


def seal_for(plan: Plan) -> Seal:
    """What seals offers that were worked out for a plan.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    callable
        From edits and words to a signed text
    """
    name = document_hash(plan)

    def seal(edits: Sequence[Edit], words: str) -> str:
        told: dict[str, Any] = {
            "plan": name,
            "edits": [[e.path, e.value] for e in edits],
            "words": words,
        }
        return signing.dumps(told, salt=_SALT, compress=True)

    return seal


def take_sealed(plan: Plan, posted: QueryDict, units: System, context: OfferContext) -> Offered:
    """The edits of an offer that came back.

    Parameters
    ----------
    plan : Plan
        The plan
    posted : QueryDict
        What was posted
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    Offered
        The edits, and what the history says

    Raises
    ------
    EditRefused
        If it is none of ours, or was worked out for another plan
    """
    try:
        told = signing.loads(posted.get("offer", ""), salt=_SALT)
    except signing.BadSignature:
        raise EditRefused(GONE) from None
    if told["plan"] != document_hash(plan):
        raise EditRefused(GONE)
    return [Edit(path, value) for path, value in told["edits"]], str(told["words"])
