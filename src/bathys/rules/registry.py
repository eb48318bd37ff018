"""What a rule and a finding are, and where rules are kept."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from bathys.edits import Edit
from bathys.evaluation import Evaluation, ResilienceRun
from bathys.figures import SourceKind

__all__ = [
    "LITRE_AN_HOUR",
    "RULES",
    "Aim",
    "Finding",
    "Offer",
    "Rule",
    "Severity",
    "dynamic_rule",
    "rule",
    "run_dynamic_rules",
    "run_ground_rules",
    "run_rules",
]

Severity = Literal["fault", "warning", "note"]

LITRE_AN_HOUR = 1e-3 / 3600.0
"""As good as no flow where a builder looks for one [m³/s]."""
Aim = Literal["more", "less", "any"]
_ORDER: dict[Severity, int] = {"fault": 0, "warning": 1, "note": 2}


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule of the trade.

    Attributes
    ----------
    id : str
        Stable identifier
    title : str
        What it is about
    why : str
        Why it matters, in plain words
    kind : str
        How far to trust it
    source : str
        Where it comes from; empty for common practice
    school : str or None
        The school that holds it; none if all do
    limits : mapping
        Its limits in the engine's units
    needs_failures : bool
        Whether it can only be judged once the failure of every part was tried
    of_ground : bool
        Whether it looks at places and ways on the ground; else it must not
    """

    id: str
    title: str
    why: str
    kind: SourceKind
    source: str = ""
    school: str | None = None
    limits: Mapping[str, float] = field(default_factory=dict)
    needs_failures: bool = False
    of_ground: bool = False


@dataclass(frozen=True, slots=True)
class Offer:
    """A change to the plan that a rule puts forward.

    Attributes
    ----------
    label : str
        What to do, with slots ``{name:quantity}``
    edits : tuple of Edit
        The change to the plan
    watch : str
        Key of the figure that shows its effect; empty if the finding's silence is the effect
    figures : mapping
        Figures for the slots
    aim : str
        Which way that figure should move for the change to help: ``more``, ``less`` or ``any``
    """

    label: str
    edits: tuple[Edit, ...]
    watch: str = ""
    figures: Mapping[str, float | str] = field(default_factory=dict)
    aim: Aim = "any"


@dataclass(frozen=True, slots=True)
class Finding:
    """What a rule has to say of one place.

    Attributes
    ----------
    rule : Rule
        The rule
    message : str
        Which of the things it has to say, whatever the words
    severity : str
        ``fault`` must be fixed, ``warning`` should be, ``note`` is for information
    place : str
        Id of the part
    sentence : str
        What was found, with slots ``{name:quantity}``
    hint : str
        What to do about it, with slots
    figures : mapping
        Figures for the slots
    offers : tuple of Offer, or callable
        Changes to the plan that should fix it, or what finds them: a search through the plan
        is made only when somebody asks. Their effect is worked out then too
    """

    rule: Rule
    message: str
    severity: Severity
    place: str
    sentence: str
    hint: str = ""
    figures: Mapping[str, float | str] = field(default_factory=dict)
    offers: tuple[Offer, ...] | Callable[[], tuple[Offer, ...]] = ()

    @property
    def id(self) -> str:
        """Stable name of what is said, such as ``U1.runs_over``; its words may change."""
        return f"{self.rule.id}.{self.message}"

    def list_offers(self) -> tuple[Offer, ...]:
        """The changes that should fix it."""
        return self.offers if isinstance(self.offers, tuple) else self.offers()


Check = Callable[[Evaluation, Rule], Iterable[Finding]]
DynamicCheck = Callable[[ResilienceRun, Rule], Iterable[Finding]]
RULES: dict[str, Rule] = {}
_CHECKS: list[tuple[Rule, Check]] = []
_LATE_CHECKS: list[tuple[Rule, DynamicCheck]] = []


def _keep(data: Rule) -> None:
    if data.id in RULES:
        raise ValueError(f"two rules are called {data.id}")
    RULES[data.id] = data


def rule(data: Rule) -> Callable[[Check], Check]:
    """Register a check of a plan's steady numbers under its rule.

    Parameters
    ----------
    data : Rule
        The rule

    Returns
    -------
    callable
        Decorator for the check

    Raises
    ------
    ValueError
        If the identifier is taken
    """
    _keep(data)

    def register(check: Check) -> Check:
        _CHECKS.append((data, check))
        return check

    return register


def dynamic_rule(data: Rule) -> Callable[[DynamicCheck], DynamicCheck]:
    """Register a check of what a plan does through time; else as :func:`rule`.

    Parameters
    ----------
    data : Rule
        The rule

    Returns
    -------
    callable
        The decorator
    """
    _keep(data)

    def register(check: DynamicCheck) -> DynamicCheck:
        _LATE_CHECKS.append((data, check))
        return check

    return register


def _gravest_first(found: Iterable[Finding]) -> tuple[Finding, ...]:
    return tuple(sorted(found, key=lambda f: _ORDER[f.severity]))


def run_rules(evaluation: Evaluation, only: str = "") -> tuple[Finding, ...]:
    """Every rule's findings, or one rule's, gravest first, else in the order of the rules.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    only : str
        Id of the only rule to run; all by default

    Returns
    -------
    tuple of Finding
        The findings
    """
    return _gravest_first(
        f for data, check in _CHECKS if only in ("", data.id) for f in check(evaluation, data)
    )


def run_ground_rules(evaluation: Evaluation, known: Iterable[Finding]) -> tuple[Finding, ...]:
    """Every rule's findings on a plan in which only places on the ground changed.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of the plan
    known : iterable of Finding
        The findings before the change; those that no place bears on stand

    Returns
    -------
    tuple of Finding
        The findings, as :func:`run_rules` gives them
    """
    stand: dict[str, list[Finding]] = {}
    for finding in known:
        stand.setdefault(finding.rule.id, []).append(finding)
    return _gravest_first(
        f
        for data, check in _CHECKS
        for f in (check(evaluation, data) if data.of_ground else stand.get(data.id, ()))
    )


def run_dynamic_rules(resilience: ResilienceRun) -> tuple[Finding, ...]:
    """Findings on what a plan does through time, in the same order.

    Parameters
    ----------
    resilience : ResilienceRun
        What the plan does through time, and when things fail

    Returns
    -------
    tuple of Finding
        The findings
    """
    return _gravest_first(f for data, check in _LATE_CHECKS for f in check(resilience, data))
