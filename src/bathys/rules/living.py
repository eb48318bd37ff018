"""Fish that are told, the water they stand in, and more air for it: what rules N1 to N10 share."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.edits.adding import add_part
from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.quality.reserve import reserve_of
from bathys.quality.water import water_of
from bathys.quality.water_result import VesselWater, WaterResult
from bathys.rules.registry import Offer

__all__ = ["fewer_fish", "more_air", "tanks_with_fish", "water_told"]


_SURELY = 0.97  # of what the water carries, so that rounding leaves none over


def water_told(evaluation: Evaluation) -> WaterResult | None:
    """What the water comes to, of a plan whose fish are told.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan

    Returns
    -------
    WaterResult or None
        None where no fish are told, or nothing is fed
    """
    return water_of(evaluation) if evaluation.plan.fish else None


def tanks_with_fish(evaluation: Evaluation) -> Iterator[tuple[VesselWater, WaterResult]]:
    """Every tank with fish that are told.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan

    Yields
    ------
    (VesselWater, WaterResult)
        The water of the tank, and of the plan
    """
    water = water_told(evaluation)
    for id_ in water.stock if water is not None else ():
        if water is not None:
            yield water.vessels[id_], water


def more_air(evaluation: Evaluation, tank: str) -> tuple[Offer, ...]:
    """Twice the air of its stones, or a stone.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    tank : str
        Id of the tank

    Returns
    -------
    tuple of Offer
        One
    """
    plan = evaluation.plan
    own = [a for a in plan.air if a.stands_in == tank]
    if own:
        edits = [Edit(f"air.{a.id}.flow", 2.0 * a.flow) for a in own if a.fed_by is None]
        edits += [
            Edit(f"air_pumps.{p.id}.max_flow", 2.0 * p.most_flow)
            for p in plan.air_pumps
            if any(a.fed_by == p.id for a in own)
        ]
        return (Offer(f"let twice the air into {named(plan.vessel(tank))}", tuple(edits)),)
    made, _ = add_part(plan, "stone", tank)
    return (Offer(f"hang an air stone in {named(plan.vessel(tank))}", tuple(made)),)


def fewer_fish(evaluation: Evaluation) -> tuple[Offer, ...]:
    """As many fish as the water carries, each cohort in proportion.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Offer
        None where it carries all of them, or not even one
    """
    plan, reserve = evaluation.plan, reserve_of(evaluation)
    if reserve is None or reserve.times >= 1.0:
        return ()
    kept = {s.id: math.floor(_SURELY * reserve.times * s.count) for s in plan.fish if s.count > 1}
    if not kept or min(kept.values()) < 1:
        return ()
    edits = tuple(Edit(f"fish.{id_}.count", count) for id_, count in kept.items())
    return (Offer("keep {count:count} fish", edits, "", {"count": float(sum(kept.values()))}),)
