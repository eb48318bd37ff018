"""Judgement: rules as data, findings as their result.

Public: :class:`Rule`, :class:`Finding`, :data:`RULES`, :func:`judge` (steady
numbers), :func:`judge_rehearsal` (through time), :data:`CAUTIONS`. A new rule is one function
with the ``rule`` or ``late_rule`` decorator in a module that is named in ``_MODULES``.
"""

from importlib import import_module

from bathys.evaluation import Evaluation, Rehearsal
from bathys.kinds import facets
from bathys.rules.cautions import CAUTIONS, Caution
from bathys.rules.mishaps import BROKEN, MISHAPS
from bathys.rules.registry import RULES, Finding, Offer, Rule, Severity, run_late_rules, run_rules

__all__ = [
    "BROKEN", "CAUTIONS", "MISHAPS", "RULES", "Caution", "Finding", "Offer", "Rule", "Severity",
    "judge", "judge_rehearsal",
]  # fmt: skip

_MODULES = (
    "flow",
    "supply",
    "pipes",
    "power",
    "siphons",
    "timed",
    "levels",
    "sumps",
    "outages",
    "swings",
    "scope",
    "stock",
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


def judge_rehearsal(rehearsal: Rehearsal) -> tuple[Finding, ...]:
    """Findings on what a plan does through time and when things fail, gravest first.

    Parameters
    ----------
    rehearsal : Rehearsal
        The plan rehearsed

    Returns
    -------
    tuple of Finding
        The findings
    """
    return run_late_rules(rehearsal)
