"""A plan as its pipes will be once they have been in use."""

from bathys.edits import Edit, apply_edits
from bathys.parts.fouling import FOULING
from bathys.plan import Plan

__all__ = ["STATES", "aged"]

STATES = tuple(FOULING)
"""States of a pipe's wall in the order of their coming."""


def aged(plan: Plan, fouling: str) -> Plan:
    """A plan with every run at least as fouled as this.

    Parameters
    ----------
    plan : Plan
        The plan
    fouling : str
        One of ``STATES``

    Returns
    -------
    Plan
        A run that is worse already stays as it is
    """
    worse = [r for r in plan.runs if STATES.index(r.fouling) < STATES.index(fouling)]
    return apply_edits(plan, [Edit(f"runs.{r.id}.fouling", fouling) for r in worse])
