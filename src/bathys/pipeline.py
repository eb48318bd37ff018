"""One way from a plan to everything that is known of it."""

from collections import Counter
from dataclasses import dataclass

from bathys.evaluation import Evaluation, evaluate
from bathys.plan import Plan
from bathys.rules import Finding, judge

__all__ = ["Assessment", "assess"]


@dataclass(frozen=True, slots=True)
class Assessment:
    """A plan's numbers and what to think of them.

    Attributes
    ----------
    evaluation : Evaluation
        The numbers
    findings : tuple of Finding
        Gravest first
    """

    evaluation: Evaluation
    findings: tuple[Finding, ...]

    @property
    def is_sound(self) -> bool:
        """Whether nothing needs mending."""
        return not any(f.severity in ("fault", "warning") for f in self.findings)

    @property
    def counts(self) -> Counter[str]:
        """Findings by severity."""
        return Counter(f.severity for f in self.findings)


def assess(plan: Plan) -> Assessment:
    """Work a plan out and judge it. Pure and deterministic.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    Assessment
        Its numbers and findings

    Raises
    ------
    NotSolved
        If a balance does not settle
    """
    evaluation = evaluate(plan)
    return Assessment(evaluation, judge(evaluation))
