"""The figures at the head of a plan's page, kept with each revision: what a change moves is then
told without working the plan of before out again, whichever web process answers."""

from dataclasses import dataclass
from typing import Any

from bathys.engine import engine_name
from bathys.network import NotSolved
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys_web.plans.models import Revision
from bathys_web.plans.storing import assessment_of, assessment_of_plan

__all__ = ["Headline", "Headlines", "headlines_document", "headlines_of", "headlines_of_plan"]


@dataclass(frozen=True, slots=True)
class Headline:
    """A figure: its key, its name for people, its value in the engine's unit, its quantity."""

    key: str
    label: str
    value: float | None
    quantity: str


@dataclass(frozen=True, slots=True)
class Headlines:
    """What the head of the page tells: figures, and how many faults and warnings there are."""

    figures: tuple[Headline, ...]
    fault: int
    warning: int


def headlines_document(found: Assessment) -> dict[str, Any]:
    """The headlines of a plan as the database keeps them.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan

    Returns
    -------
    dict of str to object
        Data for JSON
    """
    told = _headlines(found)
    return {
        "engine": engine_name(),
        "fault": told.fault,
        "warning": told.warning,
        "figures": [[f.key, f.label, f.value, f.quantity] for f in told.figures],
    }


def headlines_of_plan(plan: Plan) -> dict[str, Any]:
    """The same of a plan that may not work out.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of str to object
        Data for JSON
    """
    try:
        return headlines_document(assessment_of_plan(plan))
    except NotSolved:
        return {"engine": engine_name()}


def headlines_of(revision: Revision) -> Headlines:
    """The headlines of a revision; worked out again where another engine told them.

    Parameters
    ----------
    revision : Revision
        The revision

    Returns
    -------
    Headlines
        The headlines

    Raises
    ------
    NotSolved
        As the engine
    """
    kept = revision.headlines
    if kept.get("engine") != engine_name() or "figures" not in kept:
        return _headlines(assessment_of(revision))
    figures = tuple(Headline(*row) for row in kept["figures"])
    return Headlines(figures, kept["fault"], kept["warning"])


def _headlines(found: Assessment) -> Headlines:
    figures = tuple(Headline(f.key, f.label, f.value, f.quantity) for f in found.headlines)
    return Headlines(figures, found.counts["fault"], found.counts["warning"])
