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
    thinner = [r for r in plan.runs if r.wall.thickness < FOULING[fouling].thickness]
    edits = [Edit(f"runs.{r.id}.fouling", fouling) for r in thinner]
    edits += [Edit(f"runs.{r.id}.film", None) for r in thinner if r.film is not None]
    return apply_edits(plan, edits)
