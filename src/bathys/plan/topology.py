"""How the parts of a plan hang together: the one way in which it is walked."""

import math
from collections import deque
from collections.abc import Callable, Iterable
from typing import Any, NamedTuple, TypeVar

from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump

__all__ = [
    "TiedTogether",
    "followed",
    "lowest_hump",
    "reached",
    "runs_at",
    "tied_together",
]

Place = TypeVar("Place")
Label = TypeVar("Label")


def reached(
    first: Iterable[Place], onward: Callable[[Place], Iterable[Place]]
) -> dict[Place, None]:
    """All that can be come to.

    Parameters
    ----------
    first : iterable
        Where to begin
    onward : callable
        What one step leads to from a place

    Returns
    -------
    dict
        Each once, the nearest first, those to begin with among them; its values say nothing
    """
    waiting, found = deque(first), dict[Place, None]()
    while waiting:
        place = waiting.popleft()
        if place not in found:
            found[place] = None
            waiting.extend(onward(place))
    return found


def lowest_hump(
    first: Place, height: float, onward: Callable[[Place], Iterable[tuple[Place, float]]]
) -> dict[Place, float]:
    """How high water must stand to come to each place: the highest point of the lowest way there.

    Parameters
    ----------
    first : place
        Where it begins
    height : float
        How high it must stand to begin, [m]
    onward : callable
        What one step leads to from a place, and how high its highest point is, [m]

    Returns
    -------
    dict of place to float
        Of every place it may come to, [m]
    """
    lowest, waiting = {first: height}, [first]
    while waiting:
        place = waiting.pop()
        for further, hump in onward(place):
            high = max(lowest[place], hump)
            if high < lowest.get(further, math.inf):
                lowest[further] = high
                waiting.append(further)
    return lowest


def followed(
    first: Iterable[Place],
    ways: Callable[[Place], Iterable[tuple[Place, Label]]],
    best: Callable[[tuple[Place, Label]], Any],
) -> list[tuple[Place, Label]]:
    """The way from a place that goes on by the best step each time, to where it has not been.

    Parameters
    ----------
    first : iterable of place
        Places it has been to, the last one where it begins
    ways : callable
        Steps from a place: where each leads, and what is told of it
    best : callable
        Sorts steps; the greatest is taken

    Returns
    -------
    list of (place, label)
        Steps in their order, until there is none
    """
    seen = dict.fromkeys(first)
    here, steps = next(reversed(seen)), list[tuple[Place, Label]]()
    while True:
        options = [w for w in ways(here) if w[0] not in seen]
        if not options:
            return steps
        step = max(options, key=best)
        here = step[0]
        seen[here] = None
        steps.append(step)


def runs_at(plan: Plan, place: str) -> tuple[Run, ...]:
    """The runs that begin or end at a place.

    Parameters
    ----------
    plan : Plan
        The plan
    place : str
        A place of the plan, as `from` and `to` name it

    Returns
    -------
    tuple of Run
        The runs, in the plan's order
    """
    return (*plan.runs_from(place), *plan.runs_to(place))


class TiedTogether(NamedTuple):
    """Runs that hang together through joints, and the pumps on them."""

    runs: tuple[Run, ...]
    pumps: tuple[Pump, ...]


def tied_together(
    plan: Plan, first: Iterable[str], passes: Callable[[Run], bool] = lambda _: True
) -> TiedTogether:
    """What hangs together with some places.

    Parameters
    ----------
    plan : Plan
        The plan
    first : iterable of str
        Joints, or places where runs begin or end, such as ``P1.out``
    passes : callable
        Whether a run counts, and is a way on; else it is none of these

    Returns
    -------
    TiedTogether
        Runs the nearest first, pumps in the plan's order
    """
    goes_on = {p.leads_from for p in plan.pumps} | plan.joints
    runs: dict[str, Run] = {}

    def onward(place: str) -> list[str]:
        here = [r for r in runs_at(plan, place) if passes(r)]
        runs.update((r.id, r) for r in here)
        return [p for r in here for p in (r.start, r.end) if p in goes_on]

    places = reached(first, onward)
    pumps = tuple(p for p in plan.pumps if p.leads_from in places)
    return TiedTogether(tuple(runs.values()), pumps)
