"""The one order of parts, followed by the water, that drawing, lists and labels share."""

from dataclasses import dataclass

from bathys.plan import GROUPS, Plan
from bathys.plan.topology import reached

__all__ = ["Station", "labels_of", "name_of", "numbers_of", "stations_of"]


_LONGEST_LABEL = 4


@dataclass(frozen=True, slots=True)
class Station:
    """A part of a plan at its place in the order of the water.

    Attributes
    ----------
    number : int
        Its place, from 1
    id : str
        Its id
    name : str
        Its name
    group : str
        The plan's list it stands in, such as ``vessels``
    """

    number: int
    id: str
    name: str
    group: str

    @property
    def label(self) -> str:
        """What stands for it in pictures and lists: its id, which never changes; of a long one its
        beginning."""
        return self.id if len(self.id) <= _LONGEST_LABEL else f"{self.id[: _LONGEST_LABEL - 1]}…"


def stations_of(plan: Plan) -> list[Station]:
    """Stations from each pump all the way round; parts that no pump reaches come last.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    list of Station
        Every part once
    """
    order: dict[str, None] = {}
    for pump in plan.pumps:
        _follow(plan, pump.id, order)
    for group in GROUPS:
        for part in getattr(plan, group):
            order.setdefault(part.id)
    return [
        Station(number, id_, plan.part(id_).name, plan.group_of(id_))
        for number, id_ in enumerate(order, start=1)
    ]


def name_of(plan: Plan, place: str) -> str:
    """The name of a part; of any other place, what holds for the whole plan.

    Parameters
    ----------
    plan : Plan
        The plan
    place : str
        A place of the plan, as `from` and `to` name it

    Returns
    -------
    str
        In the user's words
    """
    part = plan.part(place)
    return "Plan and site" if part is None else str(part.name)


def labels_of(plan: Plan) -> dict[str, str]:
    """The label of each part, by its id.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of str to str
        In the order of the water
    """
    return {s.id: s.label for s in stations_of(plan)}


def numbers_of(plan: Plan) -> dict[str, int]:
    """The number of each part, by its id.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of str to int
        From 1, in the order of the water
    """
    return {s.id: s.number for s in stations_of(plan)}


def _follow(plan: Plan, id_: str, order: dict[str, None]) -> None:
    leaving: dict[str, list[str]] = {}
    for run in plan.runs:
        leaving.setdefault(run.source, []).append(run.id)
        leaving.setdefault(run.id, []).append(run.target)
    for part in (*plan.siphons, *plan.outlets):
        leaving.setdefault(part.stands_in, []).append(part.id)
    order.update(reached([id_], lambda here: (p for p in leaving.get(here, ()) if p not in order)))
