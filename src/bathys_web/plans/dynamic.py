"""A plan followed through time, as pages ask for it."""

from bathys.pipeline import DynamicAssessment
from bathys.plan import Plan
from bathys_web.computing.asking import Answer
from bathys_web.plans.offer_context import OfferContext

__all__ = ["dynamic_of", "resilience_of"]


def resilience_of(context: OfferContext, plan: Plan) -> Answer:
    """The answer to following a plan through time; a plan that cannot be followed has failed, with
    the sentence that says why.

    Parameters
    ----------
    context : OfferContext
        What offers need to know of who asks
    plan : Plan
        The plan

    Returns
    -------
    Answer
        The answer, as far as it is
    """
    found = context.computed("resilience", plan)
    if found.is_done and isinstance(found.result, str):
        return Answer("failed", found.number, why=found.result)
    return found


def dynamic_of(context: OfferContext, plan: Plan) -> DynamicAssessment | None:
    """The plan followed, if that is there.

    Parameters
    ----------
    context : OfferContext
        What offers need to know of who asks
    plan : Plan
        The plan

    Returns
    -------
    DynamicAssessment or None
        What it does through time, or none
    """
    found = resilience_of(context, plan)
    return found.result if isinstance(found.result, DynamicAssessment) else None
