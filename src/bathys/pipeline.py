"""One way from a plan to everything that is known of it."""

from collections import Counter
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import chain

from bathys.edits import EditRefused, apply_edits
from bathys.evaluation import (
    Evaluation,
    ResilienceRun,
    evaluate,
    run_resilience,
)
from bathys.figures import (
    Driver,
    Figure,
    drivers_of,
    list_details,
    list_dynamic,
    list_figures,
    list_headlines,
    list_sump_capacity,
)
from bathys.network import NotSolved
from bathys.plan import Plan
from bathys.rules import Finding, Offer, judge, judge_moved, judge_resilience
from bathys.simulation import NotSimulated
from bathys.sizing import gains

__all__ = [
    "Assessment",
    "DynamicAssessment",
    "Explanation",
    "Remedy",
    "assess",
    "assess_dynamic",
    "assess_moved",
    "dynamic_remedies_of",
    "explain",
    "explain_dynamic",
    "remedies_of",
]


_NO_MOVE = 1e-3


@dataclass(frozen=True)
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

    def __getstate__(self) -> dict[str, object]:
        """What travels to another process: figures are made again there, since their formulas are
        code."""
        return {"evaluation": self.evaluation, "findings": self.findings}

    @property
    def is_sound(self) -> bool:
        """Whether nothing needs mending."""
        return not any(f.severity in ("fault", "warning") for f in self.findings)

    @property
    def counts(self) -> Counter[str]:
        """Findings by severity."""
        return Counter(f.severity for f in self.findings)

    @cached_property
    def headlines(self) -> tuple[Figure, ...]:
        """The figures for the head of the page."""
        return list_headlines(self.evaluation)

    @cached_property
    def figures(self) -> tuple[Figure, ...]:
        """Every figure, each with its comparison and its formula."""
        return list_figures(self.evaluation)

    @cached_property
    def details(self) -> tuple[Figure, ...]:
        """Figures of the benches' tables besides."""
        return list_details(self.evaluation)

    def figure(self, key: str) -> Figure | None:
        """The figure of a key, if there is one."""
        return next((f for f in chain(self.figures, self.details) if f.key == key), None)


@dataclass(frozen=True)
class DynamicAssessment:
    """A plan followed through time, and what to think of that.

    Attributes
    ----------
    assessment : Assessment
        Its steady numbers and findings
    resilience : ResilienceRun
        What it does through time
    findings : tuple of Finding
        On that, gravest first
    """

    assessment: Assessment
    resilience: ResilienceRun
    findings: tuple[Finding, ...]


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change to the plan whose effect has been worked out.

    Attributes
    ----------
    offer : Offer
        The change
    cures : bool
        Whether the finding is gone after it
    before, after : Figure or None
        The figure that shows its effect, before and after
    raised : tuple of Finding
        Faults and warnings that are there after it and were not before
    """

    offer: Offer
    cures: bool
    before: Figure | None
    after: Figure | None
    raised: tuple[Finding, ...]

    @property
    def helps(self) -> bool:
        """Whether the figure watched moves, and the way it should."""
        if self.before is None or self.after is None:
            return False
        one, two = self.before.value, self.after.value
        if one is None or two is None or abs(two - one) <= _NO_MOVE * abs(one):
            return False
        return self.offer.aim == "any" or (two > one) == (self.offer.aim == "more")


@dataclass(frozen=True, slots=True)
class Explanation:
    """How a figure came to be.

    Attributes
    ----------
    figure : Figure
        The figure with its formula and inputs
    drivers : tuple of Driver
        What moves it most
    """

    figure: Figure
    drivers: tuple[Driver, ...]


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


def assess_moved(before: Assessment, plan: Plan) -> Assessment:
    """The assessment of a plan in which only places on the ground changed: its water is known.

    Parameters
    ----------
    before : Assessment
        Of a plan from which it differs in places alone
        (:func:`~bathys.plan.only_places_differ`)
    plan : Plan
        The plan

    Returns
    -------
    Assessment
        As :func:`assess` gives it
    """
    evaluation = replace(before.evaluation, plan=plan)
    return Assessment(evaluation, judge_moved(evaluation, before.findings))


def remedies_of(assessment: Assessment, finding: Finding) -> tuple[Remedy, ...]:
    """The offers of a finding, each tried on the plan.

    Parameters
    ----------
    assessment : Assessment
        The plan's
    finding : Finding
        One of its findings

    Returns
    -------
    tuple of Remedy
        Each with its effect, best first; offers that do nothing, or that the plan does not bear,
        are left out
    """
    return _sorted_out(_try(assessment, finding, offer) for offer in finding.list_offers())


def assess_dynamic(
    assessment: Assessment, with_failures: bool = True, is_wanted: Callable[[], bool] | None = None
) -> DynamicAssessment:
    """Simulate a plan through time, power cuts and failures, and judge that.

    Parameters
    ----------
    assessment : Assessment
        The plan's
    with_failures : bool
        Whether the failure of every part is tried
    is_wanted : callable, optional
        Asked from time to time whether to go on

    Returns
    -------
    DynamicAssessment
        What happens, and the findings

    Raises
    ------
    NotSimulated
        If the layout is not followed
    NotSolved
        If a balance does not settle
    Abandoned
        If it is not wanted any longer
    """
    go_on = is_wanted or (lambda: True)
    resilience = run_resilience(assessment.evaluation, with_failures, go_on)
    return DynamicAssessment(assessment, resilience, judge_resilience(resilience))


def dynamic_remedies_of(dynamic: DynamicAssessment, finding: Finding) -> tuple[Remedy, ...]:
    """The offers of a finding of a resilience run, each tried by another run with it.

    Parameters
    ----------
    dynamic : DynamicAssessment
        The plan's
    finding : Finding
        One of its findings

    Returns
    -------
    tuple of Remedy
        Those that cure it or help, best first
    """
    return _sorted_out(_try_dynamic(dynamic, finding, offer) for offer in finding.list_offers())


def _sorted_out(tried: Iterable[Remedy | None]) -> tuple[Remedy, ...]:
    """What cures or helps, the best first."""
    found = [r for r in tried if r is not None and (r.cures or r.helps)]
    return tuple(sorted(found, key=_best_first))


def _best_first(remedy: Remedy) -> tuple[int, bool, int]:
    """What makes new faults comes last, what cures before what only helps."""
    faults = sum(f.severity == "fault" for f in remedy.raised)
    return faults, not remedy.cures, len(remedy.raised)


def _try(assessment: Assessment, finding: Finding, offer: Offer) -> Remedy | None:
    try:
        after = assess(apply_edits(assessment.evaluation.plan, offer.edits))
    except (EditRefused, NotSolved):
        return None
    return _remedy(assessment, after, finding, offer, assessment.findings, after.findings)


def _try_dynamic(dynamic: DynamicAssessment, finding: Finding, offer: Offer) -> Remedy | None:
    before = dynamic.assessment
    try:
        after = assess(apply_edits(before.evaluation.plan, offer.edits))
        later = assess_dynamic(after, with_failures=finding.rule.needs_failures)
    except (EditRefused, NotSolved, NotSimulated):
        return None
    return _remedy(
        before,
        after,
        finding,
        offer,
        (*before.findings, *dynamic.findings),
        (*after.findings, *later.findings),
    )


def _remedy(
    before: Assessment,
    after: Assessment,
    finding: Finding,
    offer: Offer,
    known: tuple[Finding, ...],
    found: tuple[Finding, ...],
) -> Remedy:
    names = {_name(f) for f in known}
    raised = tuple(f for f in found if f.severity != "note" and _name(f) not in names)
    is_gone = _name(finding) not in {_name(f) for f in found}
    return Remedy(offer, is_gone, before.figure(offer.watch), after.figure(offer.watch), raised)


def _name(finding: Finding) -> tuple[str, str]:
    return finding.rule.id, finding.place


def explain(assessment: Assessment, key: str) -> Explanation | None:
    """How a figure came to be, and what drives it.

    Parameters
    ----------
    assessment : Assessment
        The plan's
    key : str
        The figure's key, such as ``P1.flow``

    Returns
    -------
    Explanation or None
        None if there is no such figure
    """
    figure = assessment.figure(key)
    if figure is None:
        return None
    drivers = drivers_of(figure)
    place, _, what = key.partition(".")
    now = assessment.evaluation.balance
    if not drivers and what == "flow" and figure.value:
        # A flow comes out of the whole network: what drives it is what would change it.
        drivers = (
            tuple(Driver(g.label, g.gain / figure.value, g.figures) for g in gains(now, place)[:3])
            if place in now.pump_flows or place in now.layout.pressure
            else ()
        )
    return Explanation(figure, drivers)


def explain_dynamic(dynamic: DynamicAssessment, key: str) -> Explanation | None:
    """How a figure came to be that is known once the plan was followed through time, such as
    ``S1.claim.swing`` or ``T1.cut0.final``; none if there is no such figure.

    Parameters
    ----------
    dynamic : DynamicAssessment
        What the plan does through time
    key : str
        The key of a figure

    Returns
    -------
    Explanation or None
        The explanation, or none
    """
    known = (*list_sump_capacity(dynamic.resilience), *list_dynamic(dynamic.resilience))
    figure = next((f for f in known if f.key == key), None)
    return None if figure is None else Explanation(figure, drivers_of(figure))
