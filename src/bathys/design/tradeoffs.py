"""Watts against money against what is to spare: all that may be chosen, tried."""

from collections.abc import Callable
from dataclasses import dataclass
from itertools import product

from bathys.design.answers import Answer, AtHand, Progress
from bathys.design.brief import AIMS, DesignBrief
from bathys.design.layouts import LAYOUTS
from bathys.design.parts import Choice
from bathys.design.refusing import DesignRefused
from bathys.design.trying import try_choice
from bathys.plan.shell import Shell

__all__ = ["Tradeoff", "tradeoffs"]

_WIDER = (0, 1, 2, 3)
_Measures = tuple[float, float | None, float]
_MOST_SUMPS, _TRIED_SUMPS = 2, 6
_PARTS = 10  # of the whole search, of which the first finds sumps


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
        Plans without a problem, by what they draw; of those alike in all three, the one with the
        narrowest pipe

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    """
    progress = Progress(tell)
    sumps = _sumps_that_do(brief, at_hand, progress.part(0, _PARTS))
    choices = [Choice(aim, wider, sump) for wider, aim, sump in product(_WIDER, AIMS, sumps)]
    rest = Progress(tell, 1.0 / _PARTS)
    found = dict[_Measures, Answer]()
    for number, choice in enumerate(choices):
        try:
            answer = try_choice(brief, choice, at_hand, rest.part(number, len(choices)))
        except DesignRefused:
            continue
        if not answer.faults:
            found.setdefault(_measures(brief, answer, at_hand), answer)
    rows = [(answer, *measures) for measures, answer in found.items()]
    made = [
        Tradeoff(answer, watts, cost, spare, any(_beats(two[1:], one[1:]) for two in rows))
        for one in rows
        for answer, watts, cost, spare in [one]
    ]
    return tuple(sorted(made, key=lambda row: (row.watts, -row.spare)))


def _sumps_that_do(
    brief: DesignBrief, at_hand: AtHand, progress: Progress
) -> tuple[Shell | None, ...]:
    """The smallest sumps with which the plan for least power has no problem."""
    layout = LAYOUTS[brief.layout]
    does = list[Shell | None]()
    for sump in layout.sumps_for(brief)[:_TRIED_SUMPS]:
        try:
            if not try_choice(brief, Choice("power", 0, sump), at_hand, progress).faults:
                does.append(sump)
        except DesignRefused:
            continue
        if len(does) == _MOST_SUMPS:
            break
    return tuple(does)


def _measures(brief: DesignBrief, answer: Answer, at_hand: AtHand) -> _Measures:
    known = answer.cost(brief, at_hand.prices)
    cost = round(known[0], 2) if known is not None else None
    return round(answer.watts, 1), cost, round(answer.spare(brief), 3)


def _beats(one: _Measures, two: _Measures) -> bool:
    """Whether one is no worse in anything, and better in something."""
    losses = [one[0] - two[0], (one[1] or 0.0) - (two[1] or 0.0), two[2] - one[2]]
    return all(loss <= 1e-9 for loss in losses) and any(loss < -1e-9 for loss in losses)
