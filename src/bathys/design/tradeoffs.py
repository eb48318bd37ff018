"""Watts against money against what is to spare: all that may be chosen, tried."""

from collections.abc import Callable
from dataclasses import dataclass
from itertools import product

from bathys.design.answers import Answer, AtHand, Progress
from bathys.design.brief import AIMS, DesignBrief
from bathys.design.layouts import LAYOUTS
from bathys.design.parts import Choice
from bathys.design.refusing import DesignRefused
from bathys.design.sumps import sumps_for
from bathys.design.trying import try_choice
from bathys.plan.shell import Shell

__all__ = ["Tradeoff", "tradeoffs"]

_WIDER = (0, 1, 2, 3)
_MOST_SUMPS = 2


@dataclass(frozen=True, slots=True)
class Tradeoff:
    """One plan among all that do.

    Attributes
    ----------
    answer : Answer
        The plan
    watts : float
        Of its pumps and air pumps, [W]
    cost : float or None
        Of what has a price; None without prices, [money]
    spare : float
        The least of what is to spare, [-]
    is_beaten : bool
        Whether another is no worse in anything and better in something
    """

    answer: Answer
    watts: float
    cost: float | None
    spare: float
    is_beaten: bool


def tradeoffs(
    brief: DesignBrief,
    at_hand: AtHand = AtHand(),  # noqa: B008 - it never changes
    tell: Callable[[float], bool] = lambda _share: True,
) -> tuple[Tradeoff, ...]:
    """Try every aim with every width of pipe and the smallest sumps.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    at_hand : AtHand
        What the builder brings along
    tell : callable
        Told from time to time the share that is done; says whether to go on

    Returns
    -------
    tuple of Tradeoff
        Plans without a problem, each once, by what they draw

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    """
    layout, progress = LAYOUTS[brief.layout], Progress(tell)
    sumps: tuple[Shell | None, ...] = (None,)
    if layout.has_sump:
        sumps = sumps_for(brief, layout.sumps)[:_MOST_SUMPS]
    choices = [Choice(aim, wider, sump) for aim, wider, sump in product(AIMS, _WIDER, sumps)]
    found = dict[object, Answer]()
    for number, choice in enumerate(choices):
        try:
            answer = try_choice(brief, choice, at_hand, progress.part(number, len(choices)))
        except DesignRefused:
            continue
        if not answer.faults:
            found.setdefault(answer.assessment.evaluation.plan, answer)
    rows = [(a, *_measures(brief, a, at_hand)) for a in found.values()]
    made = [
        Tradeoff(answer, watts, cost, spare, any(_beats(two[1:], one[1:]) for two in rows))
        for one in rows
        for answer, watts, cost, spare in [one]
    ]
    return tuple(sorted(made, key=lambda row: (row.watts, -row.spare)))


_Measures = tuple[float, float | None, float]


def _measures(brief: DesignBrief, answer: Answer, at_hand: AtHand) -> _Measures:
    known = answer.cost(brief, at_hand.prices)
    return answer.watts, known[0] if known is not None else None, answer.spare(brief)


def _beats(one: _Measures, two: _Measures) -> bool:
    """Whether one is no worse in anything, and better in something."""
    losses = [one[0] - two[0], (one[1] or 0.0) - (two[1] or 0.0), two[2] - one[2]]
    return all(loss <= 1e-9 for loss in losses) and any(loss < -1e-9 for loss in losses)
