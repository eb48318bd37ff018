"""Judgement: rules as data, findings as their result.

Public: :class:`Rule`, :class:`Finding`, :data:`RULES`, :func:`judge`, :data:`CAUTIONS`. A new
rule is one function with the ``rule`` decorator in a module that is named in ``_MODULES``.
"""

from importlib import import_module

from bathys.evaluation import Evaluation
from bathys.rules.cautions import CAUTIONS, Caution
from bathys.rules.registry import RULES, Finding, Offer, Rule, Severity, run_rules

__all__ = ["CAUTIONS", "RULES", "Caution", "Finding", "Offer", "Rule", "Severity", "judge"]

_MODULES = ("flow", "pipes", "power", "siphons", "levels", "scope", "stock")
for _name in _MODULES:
    import_module(f"bathys.rules.{_name}")


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
