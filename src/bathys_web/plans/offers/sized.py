"""A part sized for the builder, or all parts that are not locked."""

from typing import Any

from django.http import QueryDict

from bathys.design import ALL, resized
from bathys.pipeline import Assessment
from bathys.units import System
from bathys_web.plans.comparing import counts_words, difference_rows, figure_rows
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import seal_for

__all__ = ["ALL_PARTS", "sized_list"]

ALL_PARTS = "all"
"""What is asked for instead of a part, for all of them."""

_MOST_ROWS = 40


def sized_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What would be changed, and what that does.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for: the ``target``, a part's id or :data:`ALL_PARTS`
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    plan, target = found.evaluation.plan, asked.get("target", "")
    is_all = target == ALL_PARTS
    if not is_all and target not in plan.names:
        return {"error": "Choose a part of this plan."}
    if target in context.locked:
        return {"error": "It is locked: unlock it first."}
    done = resized(found, ALL if is_all else target, context.locked, context.pumps)
    if done is None:
        return {"is_well": True, "is_all": is_all}
    after = done.assessment
    words = "all that is not locked sized" if is_all else f"{plan.names[target]} sized"
    rows = difference_rows(plan, after.evaluation.plan, units)
    return {
        "is_all": is_all,
        "rows": rows[:_MOST_ROWS],
        "more": max(len(rows) - _MOST_ROWS, 0),
        "figures": figure_rows(found, after, units)[:6],
        "before": _counts(found),
        "after": _counts(after),
        "offer": seal_for(plan)(done.edits, words),
    }


def _counts(found: Assessment) -> str:
    return counts_words(found.counts["fault"], found.counts["warning"])
