"""Fish that are told, the water they stand in, and more air for it: what rules N1 to N10 share."""

import math
from collections.abc import Callable, Iterator, Sequence

from bathys.edits import Edit, apply_edits
from bathys.edits.adding import add_part
from bathys.evaluation import Evaluation, evaluate
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.plan.stock import Aerator
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


_TIMES = (2.0, 4.0, 8.0, 16.0)  # as much air, that is tried


def more_air(
    evaluation: Evaluation, tank: str, enough: Callable[[Evaluation, str], bool]
) -> tuple[Offer, ...]:
    """As much more air as is enough: of the stones of a tank, or of a stone hung in it.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    tank : str
        Id of the tank
    enough : callable
        Whether a plan with more air has enough in that tank

    Returns
    -------
    tuple of Offer
        One; none if not even sixteen times the air is enough
    """
    plan = evaluation.plan
    stones = [a for a in plan.air if a.stands_in == tank]
    hung: list[Edit] = []
    if not stones:
        made, stone = add_part(plan, "stone", tank)
        hung = list(made)
        stones = [a for a in apply_edits(plan, hung).air if a.id == stone]
    for times in (1.0, *_TIMES) if hung else _TIMES:
        edits = _hung(hung, times) if hung else _blown(plan, stones, times)
        if enough(evaluate(apply_edits(plan, edits)), tank):
            break
    else:
        return ()
    where = named(plan.vessel(tank))
    if not hung:
        words = f"let {{times:ratio}} times the air into {where}"
        return (Offer(words, tuple(edits), "", {"times": times}),)
    air = times * sum(a.flow for a in stones)
    words = f"hang an air stone in {where} that lets out {{air:flow}}"
    return (Offer(words, tuple(edits), "", {"air": air}),)


def _hung(made: Sequence[Edit], times: float) -> list[Edit]:
    """What hangs a stone that lets out so many times what is usual."""
    return [
        Edit(e.path, {**e.value, "flow": times * e.value["flow"]})
        if isinstance(e.value, dict) and "flow" in e.value
        else e
        for e in made
    ]


def _blown(plan: Plan, stones: Sequence[Aerator], times: float) -> list[Edit]:
    """So many times the air of some stones, and of the pumps that feed them."""
    edits = [Edit(f"air.{a.id}.flow", times * a.flow) for a in stones if a.fed_by is None]
    return edits + [
        Edit(f"air_pumps.{p.id}.max_flow", times * p.most_flow)
        for p in plan.air_pumps
        if any(a.fed_by == p.id for a in stones)
    ]


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
