"""A plan followed through time, as pages ask for it."""

from bathys.pipeline import Rehearsed
from bathys.plan import Plan
from bathys_web.computing.asking import Answer
from bathys_web.plans.desk import Desk

__all__ = ["followed_of", "rehearsal_of"]


def rehearsal_of(desk: Desk, plan: Plan) -> Answer:
    """The answer to following a plan through time; a plan that cannot be followed has failed, with
    the sentence that says why."""
    found = desk.computed("rehearsal", plan)
    if found.is_done and isinstance(found.result, str):
        return Answer("failed", found.number, why=found.result)
    return found


def followed_of(desk: Desk, plan: Plan) -> Rehearsed | None:
    """The plan followed, if that is there."""
    found = rehearsal_of(desk, plan)
    return found.result if isinstance(found.result, Rehearsed) else None
