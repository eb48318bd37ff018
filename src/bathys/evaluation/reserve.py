"""How long a plan lasts without a hand: what stands over its pumps, and what leaves it a day."""

from dataclasses import dataclass

from bathys.evaluation.result import Evaluation
from bathys.parts.practice import LEAST_COVER
from bathys.plan.model import Plan
from bathys.simulation.boundary_conditions import open_area
from bathys.vessels import storage_of

__all__ = ["Reserve", "loop_of", "moved_a_day", "reserve_of"]

_DAY = 86400.0


@dataclass(frozen=True, slots=True)
class Reserve:
    """Of one loop.

    Attributes
    ----------
    vessel : str
        The vessel that closes it, which its pump stands in
    volume : float
        Water over what the pump needs, with the vessel at its lowest, below 0 if it has none, [m³]
    dries, taken : float
        What dries off and what is taken out a day, [m³]
    comes : float
        What float valves, transfers and rain that can be counted on bring a day, [m³]
    """

    vessel: str
    volume: float
    dries: float
    taken: float
    comes: float

    @property
    def rate(self) -> float:
        """What is missing a day [m³]."""
        return max(self.dries + self.taken - self.comes, 0.0)

    @property
    def days(self) -> float | None:
        """How many days it lasts; none where nothing is missing."""
        return max(self.volume, 0.0) / self.rate if self.rate > 0.0 else None


def loop_of(found: Evaluation, closer: str) -> list[str]:
    """The vessels of a loop.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    closer : str
        The vessel that closes it

    Returns
    -------
    list of str
        Their ids
    """
    return [v for v, c in found.balance.closing.items() if c == closer]


def moved_a_day(plan: Plan, loop: set[str]) -> float:
    """What transfers bring to a loop in a day, less what they take.

    Parameters
    ----------
    plan : Plan
        The plan
    loop : set of str
        Ids of its vessels

    Returns
    -------
    float
        Water a day, [m³]
    """
    return sum(
        m.volume * _DAY / m.every * (float(m.target in loop) - float(m.source in loop))
        for m in plan.moves
    )


def reserve_of(found: Evaluation, closer: str) -> Reserve | None:
    """How long a loop lasts without a hand.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    closer : str
        The vessel that closes the loop

    Returns
    -------
    Reserve or None
        None where no pump stands in it
    """
    plan, result = found.plan, found.vessels[closer]
    inlets = [p.inlet_height for p in plan.pumps if p.stands_in == closer]
    if not inlets:
        return None
    inside = [plan.vessel(v) for v in loop_of(found, closer)]
    ids = {v.id for v in inside}
    moved = moved_a_day(plan, ids)
    rain = plan.site.rain_a_week / 7.0 * sum(v.catches_rain for v in inside)
    tops = _DAY * sum(t.lets_in for t in plan.float_valves if t.stands_in in ids)
    storage, floor = storage_of(plan, result.vessel), result.vessel.floor_height
    safe = storage.volume_at(max(inlets) + LEAST_COVER)
    return Reserve(
        closer,
        storage.volume_at(result.levels.low - floor) - safe,
        plan.site.dries * sum(map(open_area, inside)),
        max(-moved, 0.0),
        tops + rain + max(moved, 0.0),
    )
