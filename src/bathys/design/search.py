"""From a brief to sized plans, one for each aim; or the wish in the way and what frees it."""

from collections.abc import Callable, Mapping
from typing import Any

from bathys.design.answers import Answer, AtHand, Progress
from bathys.design.brief import AIMS, BadBrief, DesignBrief, brief_from_data
from bathys.design.refusing import DesignRefused, milder
from bathys.design.trying import design_for

__all__ = ["changed", "design"]

_MOST_CHANGES = 3


def design(
    brief: DesignBrief,
    at_hand: AtHand = AtHand(),  # noqa: B008 - it never changes
    tell: Callable[[float], bool] = lambda _share: True,
    show: Callable[[tuple[Answer, ...]], None] = lambda _so_far: None,
) -> tuple[Answer, ...]:
    """Size a brief for each aim.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    at_hand : AtHand
        What the builder brings along
    tell : callable
        Told from time to time the share that is done; says whether to go on
    show : callable
        Shown what is found so far

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
    answers = list[Answer]()
    last: DesignRefused | None = None
    progress = Progress(tell)
    for number, aim in enumerate(aims):
        try:
            found = design_for(brief, aim, at_hand, progress.part(number, len(aims)))
        except DesignRefused as refused:
            last = milder(last, refused)
            continue
        same = next((n for n, a in enumerate(answers) if _plan(a) == _plan(found)), None)
        if same is None:
            answers.append(found)
        else:
            old = answers[same]
            answers[same] = Answer((*old.aims, aim), old.choice, old.assessment, old.later)
        show(tuple(answers))
    if not answers and last is not None:
        frees = _proven(brief, last, at_hand, progress)
        raise DesignRefused(last.wish, last.sentence, last.figures, frees)
    return tuple(answers)


def _proven(
    brief: DesignBrief,
    refused: DesignRefused,
    at_hand: AtHand,
    progress: Progress,
) -> dict[str, Any]:
    """A change of the brief that is known to free it, with what it asks for in turn; empty if none
    is found."""
    frees: dict[str, Any] = {}
    for _ in range(_MOST_CHANGES):
        if not refused.frees:
            return {}
        frees |= refused.frees
        try:
            design_for(changed(brief, frees), brief.matters, at_hand, progress)
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
