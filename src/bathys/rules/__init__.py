"""Judgement: rules as data, findings as their result.

Public: :class:`Rule`, :class:`Finding`, :data:`RULES`, :func:`judge` (steady
numbers), :func:`judge_moved` (after a move on the ground), :func:`judge_resilience` (through
time), :data:`CAUTIONS`. A new rule is one function
with the ``rule`` or ``dynamic_rule`` decorator in a module that is named in ``_MODULES``.
"""

from importlib import import_module

from bathys.evaluation import Evaluation, ResilienceRun
from bathys.kinds import facets
from bathys.rules.cautions import CAUTIONS, Caution, cautions_for
from bathys.rules.failures import BROKEN, FAILURES
from bathys.rules.registry import (
    RULES,
    Finding,
    Offer,
    Rule,
    Severity,
    run_dynamic_rules,
    run_ground_rules,
    run_rules,
)

__all__ = [
    "BROKEN",
    "CAUTIONS",
    "FAILURES",
    "RULES",
    "Caution",
    "Finding",
    "Offer",
    "Rule",
    "Severity",
    "cautions_for",
    "judge",
    "judge_moved",
    "judge_resilience",
]

_MODULES = (
    "flow",
    "supply",
    "pipes",
    "power",
    "siphons",
    "timed",
    "levels",
    "tanks",
    "sumps",
    "outages",
    "swings",
    "scope",
    "stock",
    "shells",
    "settlers",
    "solids",
    "filters",
    "meshes",
    "held_solids",
    "water",
    "air",
    "feed",
    "climate",
    "start",
    "ground",
    "own_limits",
)
for _name in _MODULES:
    import_module(f"bathys.rules.{_name}")
    if _name == "siphons":
        facets("rules")  # those that concern one kind of part alone


def judge(evaluation: Evaluation, only: str = "") -> tuple[Finding, ...]:
    """Findings on a plan, gravest first.

    Parameters
    ----------
    evaluation : Evaluation
        The plan's numbers
    only : str
        Identifier of the one rule to ask; empty for all

    Returns
    -------
    tuple of Finding
        The findings
    """
    return run_rules(evaluation, only)


def judge_moved(evaluation: Evaluation, known: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings on a plan in which only places on the ground changed, gravest first.

    Parameters
    ----------
    evaluation : Evaluation
        The plan's numbers
    known : tuple of Finding
        The findings before the change

    Returns
    -------
    tuple of Finding
        The findings, as :func:`judge` gives them
    """
    return run_ground_rules(evaluation, known)


def judge_resilience(resilience: ResilienceRun) -> tuple[Finding, ...]:
    """Findings on what a plan does through time and when things fail, gravest first.

    Parameters
    ----------
    resilience : ResilienceRun
        What the plan went through

    Returns
    -------
    tuple of Finding
        The findings
    """
    return run_dynamic_rules(resilience)
