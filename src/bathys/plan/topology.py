"""How the parts of a plan hang together: the one way in which it is walked."""

from collections import deque
from collections.abc import Callable, Iterable
from typing import NamedTuple, TypeVar

from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump

__all__ = ["TiedTogether", "is_joint", "reached", "runs_at", "tied_together"]

Place = TypeVar("Place")


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


def runs_at(plan: Plan, place: str) -> tuple[Run, ...]:
    """The runs that begin or end at a place."""
    return (*plan.runs_from(place), *plan.runs_to(place))


def is_joint(plan: Plan, place: str) -> bool:
    """Whether runs meet at a place and water passes from one to the other: no outfall is one."""
    return plan.group_of(place) == "junctions" and not plan.is_outfall(place)


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
    outlets = {p.leads_from for p in plan.pumps}
    runs: dict[str, Run] = {}

    def onward(place: str) -> list[str]:
        here = [r for r in runs_at(plan, place) if passes(r)]
        runs.update((r.id, r) for r in here)
        ends = (p for r in here for p in (r.start, r.end))
        return [p for p in ends if p in outlets or is_joint(plan, p)]

    places = reached(first, onward)
    pumps = tuple(p for p in plan.pumps if p.leads_from in places)
    return TiedTogether(tuple(runs.values()), pumps)
