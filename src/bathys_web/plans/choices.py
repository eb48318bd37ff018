"""What the inspector offers to choose from: what a new part joins, containers, pumps."""

import json
from collections.abc import Sequence
from functools import lru_cache
from itertools import groupby
from typing import Any, NamedTuple

from bathys.edits import joins_for
from bathys.kinds import model_named
from bathys.parts.containers import Container, containers
from bathys.parts.pumps import CatalogPump, sample_pumps
from bathys.plan import Plan
from bathys.units import System, show

__all__ = [
    "ChoiceGroup",
    "capacity_of",
    "container_choices",
    "join_choices",
    "pump_choices",
]

Choices = list[tuple[str, str]]


class ChoiceGroup(NamedTuple):
    """Choices under one heading: value and words of each."""

    title: str
    choices: Choices


def join_choices(plan: Plan, kind: str, stands_in: str) -> dict[str, Any]:
    """What a new part may be joined to, in words.

    Parameters
    ----------
    plan : Plan
        The plan
    kind : str
        Kind of the new part
    stands_in : str
        The vessel it would stand in, if any

    Returns
    -------
    dict
        ``feeds`` and ``drains``, each with ids and words; ``feed`` and ``drain`` as is usual
    """
    found = joins_for(plan, kind, stands_in)
    return {
        "feeds": [(id_, _feed_words(plan, id_)) for id_ in found.feeds],
        "drains": [(id_, _named(plan, id_)) for id_ in found.drains],
        "feed": found.feed,
        "drain": found.drain,
    }


def _named(plan: Plan, id_: str) -> str:
    return f"{id_} {plan.names[id_]}"


def _feed_words(plan: Plan, id_: str) -> str:
    lead = {"runs": "a tee in ", "vessels": "a hole in "}.get(plan.group_of(id_), "")
    return f"{lead}{_named(plan, id_)}"


@lru_cache(maxsize=32)  # as many as there are systems of units, and a few mixes
def container_choices(units: System) -> list[ChoiceGroup]:
    """Containers to make a vessel of, each with what it holds.

    Parameters
    ----------
    units : System
        The reader's units

    Returns
    -------
    list of ChoiceGroup
        By kind of container
    """
    return [
        ChoiceGroup(
            title,
            [(c.key, f"{c.name}, {show(capacity_of(c), 'volume', units)}") for c in own],
        )
        for title, own in groupby(containers(), lambda c: c.group)
    ]


def own_container_choices(own: Sequence[Container], units: System) -> list[ChoiceGroup]:
    """The builder's own containers, each with what it holds.

    Parameters
    ----------
    own : sequence of Container
        The containers
    units : System
        The reader's units

    Returns
    -------
    list of ChoiceGroup
        One group, or none
    """
    choices = [(c.key, f"{c.name}, {show(capacity_of(c), 'volume', units)}") for c in own]
    return [ChoiceGroup("Yours", choices)] if choices else []


def capacity_of(container: Container) -> float:
    """What a container holds up to its rim.

    Parameters
    ----------
    container : Container
        The container

    Returns
    -------
    float
        Volume, [m³]
    """
    shell = model_named("shells", container.shape["kind"])
    return float(shell.model_validate_json(json.dumps(container.shape)).capacity)


def pump_choices(own: Sequence[CatalogPump], units: System) -> list[ChoiceGroup]:
    """Pumps to put in a pump's place: the builder's own first, then the samples.

    Parameters
    ----------
    own : sequence of CatalogPump
        The builder's own
    units : System
        The reader's units

    Returns
    -------
    list of ChoiceGroup
        Those that have any
    """
    groups = (("Your pumps", own), ("Sample pumps", sample_pumps()))
    return [
        ChoiceGroup(title, [(p.name, _pump_words(p, units)) for p in pumps])
        for title, pumps in groups
        if pumps
    ]


def _pump_words(pump: CatalogPump, units: System) -> str:
    flow, head = show(pump.max_flow, "flow", units), show(pump.max_head, "head", units)
    return f"{pump.name}: {flow}, {head}, {show(pump.power, 'power', units)}"
