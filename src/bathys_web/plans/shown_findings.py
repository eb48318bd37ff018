"""Findings in the reader's words and units."""

from collections.abc import Sequence
from dataclasses import dataclass

from bathys.drawing.stations import name_of
from bathys.plan import Plan
from bathys.rules import Finding
from bathys.units import System, fill_sentence

__all__ = ["ShownFinding", "shown_finding", "worst_of"]


@dataclass(frozen=True, slots=True)
class ShownFinding:
    """A finding in words."""

    rule: str
    severity: str
    place: str
    name: str
    sentence: str
    hint: str
    why: str
    kind: str
    school: str
    has_offers: bool


def shown_finding(finding: Finding, plan: Plan, units: System) -> ShownFinding:
    """A finding in words.

    Parameters
    ----------
    finding : Finding
        The finding
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    ShownFinding
        Its words
    """
    return ShownFinding(
        finding.rule.id,
        finding.severity,
        finding.place,
        name_of(plan, finding.place),
        fill_sentence(finding.sentence, finding.figures, units, plan.names),
        fill_sentence(finding.hint, finding.figures, units, plan.names),
        finding.rule.why,
        finding.rule.kind,
        (finding.rule.school or "").replace("_", " "),
        bool(finding.offers),
    )


def worst_of(*findings: Sequence[Finding], plan: Plan, units: System) -> ShownFinding | None:
    """The gravest of some findings, notes left out.

    Parameters
    ----------
    findings : sequence of Finding
        Each list gravest first
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    ShownFinding or None
        The first of the gravest; none if there are only notes
    """
    for severity in ("fault", "warning"):
        for finding in (f for some in findings for f in some):
            if finding.severity == severity:
                return shown_finding(finding, plan, units)
    return None
