"""From a brief to sized plans: what may be chosen is tried, the best of each aim is kept."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from bathys.design.brief import AIMS, Aim, BadBrief, DesignBrief, brief_from_data
from bathys.design.finishing import finished, judged
from bathys.design.layouts import LAYOUTS, Layout
from bathys.design.parts import Choice
from bathys.design.refusing import DesignRefused
from bathys.design.sumps import sumps_for
from bathys.edits import EditRefused
from bathys.network import NotSolved
from bathys.parts.pumps import CatalogPump, sample_pumps
from bathys.pipeline import Assessment, assess_dynamic
from bathys.plan import BadPlan
from bathys.plan.shell import Shell
from bathys.rules import Finding
from bathys.simulation import NotSimulated

__all__ = ["Answer", "changed", "design", "design_for"]

_MOST_SUMPS = 6
_MOST_CHANGES = 3
_WIDER: dict[Aim, tuple[int, ...]] = {"power": (0, 1), "cost": (0,), "margin": (1,)}


@dataclass(frozen=True, slots=True)
class Answer:
    """A plan that does.

    Attributes
    ----------
    aims : tuple of Aim
        What it is the best for
    choice : Choice
        What was chosen
    assessment : Assessment
        Its numbers and findings
    later : tuple of Finding
        What only time shows, without failures of parts
    """

    aims: tuple[Aim, ...]
    choice: Choice
    assessment: Assessment
    later: tuple[Finding, ...]

    @property
    def watts(self) -> float:
        """Of all its pumps, in the mean of a day [W]."""
        pumps = self.assessment.evaluation.plan.pumps
        return sum(p.power * (p.clock.share if p.clock is not None else 1.0) for p in pumps)

    @property
    def faults(self) -> tuple[Finding, ...]:
        """What still stands as a problem."""
        found = (*self.assessment.findings, *self.later)
        return tuple(f for f in found if f.severity == "fault")


def design(
    brief: DesignBrief,
    pumps: Sequence[CatalogPump] = (),
    is_wanted: Callable[[], bool] | None = None,
) -> tuple[Answer, ...]:
    """Size a brief for each aim.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    pumps : sequence of CatalogPump
        The builder's own, beside the samples
    is_wanted : callable, optional
        Asked from time to time whether to go on

    Returns
    -------
    tuple of Answer
        What matters most to the builder first; aims that come to the same plan share one answer

    Raises
    ------
    DesignRefused
        If a wish is in the way
    Abandoned
        If it is not wanted any longer
    """
    aims = sorted(AIMS, key=lambda aim: aim != brief.matters)
    answers, last = list[Answer](), None
    for aim in aims:
        try:
            found = design_for(brief, aim, pumps, is_wanted)
        except DesignRefused as refused:
            last = last or refused
            continue
        same = next((n for n, a in enumerate(answers) if _plan(a) == _plan(found)), None)
        if same is None:
            answers.append(found)
        else:
            old = answers[same]
            answers[same] = Answer((*old.aims, aim), old.choice, old.assessment, old.later)
    if not answers and last is not None:
        frees = _proven(brief, last, pumps, is_wanted)
        raise DesignRefused(last.wish, last.sentence, last.figures, frees)
    return tuple(answers)


def _proven(
    brief: DesignBrief,
    refused: DesignRefused,
    pumps: Sequence[CatalogPump],
    is_wanted: Callable[[], bool] | None,
) -> dict[str, Any]:
    """A change of the brief that is known to free it, with what it asks for in turn; empty if none
    is found."""
    frees: dict[str, Any] = {}
    for _ in range(_MOST_CHANGES):
        if not refused.frees:
            return {}
        frees |= refused.frees
        try:
            design_for(changed(brief, frees), brief.matters, pumps, is_wanted)
        except DesignRefused as again:
            refused = again
        except BadBrief:
            return {}
        else:
            return frees
    return {}


def changed(brief: DesignBrief, frees: Mapping[str, Any]) -> DesignBrief:
    """A brief with some of its answers changed.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    frees : mapping of str to object
        New answers by field, of vessels only what changes

    Returns
    -------
    DesignBrief
        The brief after

    Raises
    ------
    BadBrief
        If it is none
    """
    data = brief.model_dump(mode="json")
    for field, value in frees.items():
        data[field] = {**data[field], **value} if isinstance(value, Mapping) else value
    return brief_from_data(data)


def _plan(answer: Answer) -> object:
    return answer.assessment.evaluation.plan


def design_for(
    brief: DesignBrief,
    aim: Aim,
    pumps: Sequence[CatalogPump] = (),
    is_wanted: Callable[[], bool] | None = None,
) -> Answer:
    """Size a brief for one aim.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    aim : Aim
        What is to be best
    pumps : sequence of CatalogPump
        The builder's own, beside the samples
    is_wanted : callable, optional
        Asked from time to time whether to go on

    Returns
    -------
    Answer
        The plan without a problem, steady and through a day and a power cut

    Raises
    ------
    DesignRefused
        If a wish is in the way, or what was found has a problem that nothing frees
    Abandoned
        If it is not wanted any longer
    """
    layout = LAYOUTS.get(brief.layout)
    if layout is None:
        raise DesignRefused("layout", f"Choose one of: {', '.join(LAYOUTS)}.")
    _check_parts(brief, layout)
    catalogue = (*pumps, *sample_pumps())
    best: Answer | None = None
    for wider in _WIDER[aim]:
        found = _first_that_does(brief, layout, aim, wider, catalogue, is_wanted)
        if best is None or (not found.faults, -found.watts) > (not best.faults, -best.watts):
            best = found
    if best is None:
        raise DesignRefused("layout", "Nothing could be tried.")
    if best.faults:
        fault = best.faults[0]
        raise DesignRefused("layout", fault.sentence, fault.figures)
    return best


def _check_parts(brief: DesignBrief, layout: Layout) -> None:
    if not layout.wants_beds and brief.beds.count:
        sentence = f"The {layout.name.lower()} has no grow beds. Take none, or the split flow."
        raise DesignRefused("beds", sentence, {}, {"layout": "split_flow"})
    if not layout.wants_rafts and brief.rafts.count:
        sentence = f"The {layout.name.lower()} has no rafts. Take none, or the split flow."
        raise DesignRefused("rafts", sentence, {}, {"layout": "split_flow"})
    if not brief.beds.count and not brief.rafts.count:
        raise DesignRefused("beds", "Nothing would grow: choose at least one bed or raft.")
    if not layout.has_sump and brief.tank.count > 1:
        sentence = f"The {layout.name.lower()} has one fish tank. Take one, or the split flow."
        raise DesignRefused("tank", sentence, {}, {"layout": "split_flow"})


def _first_that_does(
    brief: DesignBrief,
    layout: Layout,
    aim: Aim,
    wider: int,
    catalogue: Sequence[CatalogPump],
    is_wanted: Callable[[], bool] | None,
) -> Answer:
    """With the smallest sump that leaves no problem; where most margin is wanted, the next one."""
    best: Answer | None = None
    refused: DesignRefused | None = None
    sumps: tuple[Shell | None, ...] = (None,)
    if layout.has_sump:
        sumps = sumps_for(brief)[1 if aim == "margin" else 0 :][:_MOST_SUMPS]
    for sump in sumps:
        choice = Choice(aim, wider, sump)
        try:
            found = _tried(brief, layout, choice, catalogue, is_wanted)
        except DesignRefused as error:
            refused = refused or error
            continue
        if best is None or len(found.faults) < len(best.faults):
            best = found
        if not best.faults:
            return best
    if best is None:
        raise refused or DesignRefused("layout", "No sump holds what goes up and down in it.")
    return best


def _smaller(brief: DesignBrief, layout: Layout, refused: DesignRefused) -> dict[str, Any]:
    """What may free a brief whose flow is too much for a pump, or too little for a siphon."""
    if refused.wish == "pump":
        grown = "beds" if brief.beds.count >= brief.rafts.count else "rafts"
        count = getattr(brief, grown).count
        return {grown: {"count": count // 2}} if count > 1 else {}
    if "start" in refused.figures:
        return {"layout": "two_pumps" if layout.has_sump else "constant_flood"}
    return {}


def _tried(
    brief: DesignBrief,
    layout: Layout,
    choice: Choice,
    catalogue: Sequence[CatalogPump],
    is_wanted: Callable[[], bool] | None,
) -> Answer:
    try:
        assessment = judged(finished(layout.draw(brief, choice).plan(), choice, catalogue))
    except DesignRefused as refused:
        if refused.frees:
            raise
        raise DesignRefused(
            "beds" if refused.wish == "pump" else refused.wish,
            refused.sentence,
            refused.figures,
            _smaller(brief, layout, refused),
        ) from None
    except (NotSolved, BadPlan, EditRefused) as error:
        raise DesignRefused("layout", f"It does not go together: {error}.") from error
    later: tuple[Finding, ...] = ()
    if not any(f.severity == "fault" for f in assessment.findings):
        try:
            later = assess_dynamic(assessment, False, is_wanted).findings
        except NotSimulated as error:
            raise DesignRefused("layout", f"It cannot be simulated: {error}.") from error
    return Answer((choice.aim,), choice, assessment, later)
