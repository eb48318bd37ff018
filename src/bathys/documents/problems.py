"""Problems that stand in the way of a build sheet, each with a name by which it is acknowledged."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass

from bathys.plan.model import Plan
from bathys.rules import Finding
from bathys.units import System, fill_sentence

__all__ = ["StandingProblem", "standing_problems", "unacknowledged"]


@dataclass(frozen=True, slots=True)
class StandingProblem:
    """A problem that stands.

    Attributes
    ----------
    name : str
        By which it is acknowledged: its rule and its place
    sentence : str
        What it is
    """

    name: str
    sentence: str


def standing_problems(
    plan: Plan, findings: Iterable[Finding], units: System
) -> tuple[StandingProblem, ...]:
    """Problems among findings.

    Parameters
    ----------
    plan : Plan
        The plan
    findings : iterable of Finding
        All that is found of it
    units : System
        The reader's units

    Returns
    -------
    tuple of StandingProblem
        In the order of the findings
    """
    return tuple(
        StandingProblem(
            f"{f.rule.id}.{f.place}", fill_sentence(f.sentence, f.figures, units, plan.names)
        )
        for f in findings
        if f.severity == "fault"
    )


def unacknowledged(
    problems: Iterable[StandingProblem], names: Collection[str]
) -> tuple[StandingProblem, ...]:
    """Problems that nobody took upon himself.

    Parameters
    ----------
    problems : iterable of StandingProblem
        Those that stand
    names : collection of str
        Names of those that are acknowledged

    Returns
    -------
    tuple of StandingProblem
        The others: no sheet is made while there is one
    """
    return tuple(p for p in problems if p.name not in names)
