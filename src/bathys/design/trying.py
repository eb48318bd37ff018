"""What may be chosen of a brief, tried one after the other until one does."""

from typing import Any

from bathys.design.answers import Answer, AtHand, Progress
from bathys.design.brief import Aim, DesignBrief
from bathys.design.finishing import finished, judged
from bathys.design.layouts import LAYOUTS, Layout
from bathys.design.limits import LIMITS, check_limits
from bathys.design.parts import Choice
from bathys.design.refusing import DesignRefused, milder
from bathys.edits import EditRefused
from bathys.network import NotSolved
from bathys.pipeline import assess_dynamic
from bathys.plan import BadPlan
from bathys.rules import Finding
from bathys.simulation import NotSimulated

__all__ = ["design_for", "try_choice"]

_MOST_SUMPS = 6
# Pumped pipe so many sizes wider; what saves no watts is the last that is tried.
_WIDER: dict[Aim, tuple[int, ...]] = {"power": (0, 1, 2, 3), "cost": (0,), "margin": (1,)}


def design_for(
    brief: DesignBrief,
    aim: Aim,
    at_hand: AtHand = AtHand(),  # noqa: B008 - it never changes
    progress: Progress = Progress(),  # noqa: B008 - the same
) -> Answer:
    """Size a brief for one aim.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    aim : Aim
        What is to be best
    at_hand : AtHand
        What the builder brings along
    progress : Progress
        Told from time to time how far it is

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
    best: Answer | None = None
    refused: DesignRefused | None = None
    for number, wider in enumerate(_WIDER[aim]):
        part = progress.part(number, len(_WIDER[aim]))
        try:
            found = _first_that_does(brief, layout, aim, wider, at_hand, part)
        except DesignRefused as error:
            refused = milder(refused, error)
            continue
        if best is not None and not _is_better(found, best):
            break
        best = found
    if best is None:
        raise refused or DesignRefused("layout", "Nothing could be tried.")
    if best.faults:
        fault = best.faults[0]
        raise DesignRefused("layout", fault.sentence, fault.figures)
    return best


def _is_better(one: Answer, two: Answer) -> bool:
    return (bool(one.faults), one.watts) < (bool(two.faults), two.watts)


def _check_parts(brief: DesignBrief, layout: Layout) -> None:
    if not layout.wants_beds and brief.beds.count:
        sentence = f"The {layout.name.lower()} has no grow beds. Take none, or the split flow."
        raise DesignRefused("beds", sentence, {}, {"layout": "split_flow"})
    if not layout.wants_rafts and brief.rafts.count:
        sentence = f"The {layout.name.lower()} has no rafts. Take none, or the split flow."
        raise DesignRefused("rafts", sentence, {}, {"layout": "split_flow"})
    if not layout.wants_side_tanks and brief.side_tanks.count:
        sentence = f"The {layout.name.lower()} has no side tanks. Take none, or that layout."
        raise DesignRefused("side_tanks", sentence, {}, {"layout": "side_tanks"})
    if layout.wants_side_tanks and not brief.side_tanks.count:
        sentence = "It has no side tank yet: say how many and what they are."
        frees = {"side_tanks": {"count": 2, "container": "aquarium-180"}}
        raise DesignRefused("side_tanks", sentence, {}, frees)
    if layout.needs_plants and not brief.beds.count and not brief.rafts.count:
        raise DesignRefused("beds", "Nothing would grow: choose at least one bed or raft.")
    if brief.is_quiet and layout.has_siphons and brief.beds.count:
        sentence = "Siphons gurgle as they stop, and you asked for quiet."
        quiet = "two_pumps" if layout.has_sump else "constant_flood"
        raise DesignRefused("is_quiet", sentence, {}, {"layout": quiet})
    if not layout.has_sump and brief.tank.count > 1:
        sentence = f"The {layout.name.lower()} has one fish tank. Take one, or the split flow."
        raise DesignRefused("tank", sentence, {}, {"layout": "split_flow"})


def _first_that_does(
    brief: DesignBrief,
    layout: Layout,
    aim: Aim,
    wider: int,
    at_hand: AtHand,
    progress: Progress,
) -> Answer:
    """With the smallest sump that leaves no problem; where most margin is wanted, the next one."""
    best: Answer | None = None
    refused: DesignRefused | None = None
    first = 1 if aim == "margin" and layout.has_sump else 0
    sumps = layout.sumps_for(brief)[first:][:_MOST_SUMPS]
    for number, sump in enumerate(sumps):
        part = progress.part(number, len(sumps))
        try:
            found = try_choice(brief, Choice(aim, wider, sump), at_hand, part)
        except DesignRefused as error:
            if error.wish in LIMITS:  # a larger sump draws, costs and weighs no less
                raise
            refused = milder(refused, error)
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


def try_choice(
    brief: DesignBrief,
    choice: Choice,
    at_hand: AtHand = AtHand(),  # noqa: B008 - it never changes
    progress: Progress = Progress(),  # noqa: B008 - the same
) -> Answer:
    """Draw, finish and judge one choice of the sizes that may be chosen.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    choice : Choice
        The choice
    at_hand : AtHand
        What the builder brings along
    progress : Progress
        Told from time to time how far it is

    Returns
    -------
    Answer
        The plan, with whatever problems it has

    Raises
    ------
    DesignRefused
        If a wish is in the way
    Abandoned
        If it is not wanted any longer
    """
    layout = LAYOUTS[brief.layout]
    try:
        plan = finished(layout.draw(brief, choice).plan(), choice, brief, at_hand.pumps)
        assessment = judged(plan)
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
    check_limits(assessment.evaluation, brief, at_hand.prices)
    later: tuple[Finding, ...] = ()
    if not any(f.severity == "fault" for f in assessment.findings):
        try:
            later = assess_dynamic(assessment, False, progress).findings
        except NotSimulated as error:
            raise DesignRefused("layout", f"It cannot be simulated: {error}.") from error
    return Answer((choice.aim,), choice, assessment, later)
