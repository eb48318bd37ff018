"""How much higher a vessel must be filled, or how much larger it must be, and the offers to do so.

Vessels that stand at one level, such as twin sumps, are filled together.
"""

import math

from bathys import halving
from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.parts.rounding import mark_above, mark_below
from bathys.plan.naming import named
from bathys.plan.places import part_id
from bathys.plan.vessel import Vessel
from bathys.rules.registry import Offer
from bathys.vessels import Storage, joined, storage_of

__all__ = ["enlarge", "fill", "fill_needed"]

_MOST_LARGER, _HALVINGS = 3.0, 20
_SAME = 0.005  # vessels whose water stands this close are at one level [m]


def _together(evaluation: Evaluation, vessel: Vessel) -> list[Vessel]:
    """A vessel and those filled to the same level that pipes join it to."""
    plan, own = evaluation.plan, vessel.floor_height + (vessel.water_depth or 0.0)
    found = [vessel]
    for run in plan.runs:
        ends = {part_id(p) for p in (run.start, run.end) if plan.port(p) is not None}
        if len(ends) != 2 or not ends & {v.id for v in found}:
            continue
        for id_ in ends - {v.id for v in found}:
            other = plan.vessel(id_)
            depth = other.water_depth
            if depth is not None and abs(other.floor_height + depth - own) < _SAME:
                found.append(other)
    return found


def _storage(evaluation: Evaluation, vessels: list[Vessel]) -> Storage:
    first = vessels[0].floor_height
    return joined([(storage_of(evaluation.plan, v), v.floor_height - first) for v in vessels])


def fill(evaluation: Evaluation, vessel: Vessel, by: float) -> tuple[Offer, ...]:
    """Fill a vessel higher, or lower for less than 0, if it has a depth to change.

    Parameters
    ----------
    evaluation : Evaluation
        The plan's numbers
    vessel : Vessel
        The vessel
    by : float
        How much, [m]

    Returns
    -------
    tuple of Offer
        One, or none
    """
    if vessel.water_depth is None:
        return ()
    aim = vessel.water_depth + by
    by = (mark_above(aim) if by > 0.0 else mark_below(aim)) - vessel.water_depth
    vessels, edits = _together(evaluation, vessel), []
    for one in vessels:
        depth = round((one.water_depth or 0.0) + by, 4)
        if not 0.0 < depth <= one.shape.height:
            return ()
        edits.append(Edit(f"vessels.{one.id}.water_depth", depth))
    names = " and ".join(named(v) for v in vessels)
    word = "higher" if by > 0.0 else "lower"
    return (
        Offer(
            f"fill {names} {{by:length}} {word}", tuple(edits), f"{vessel.id}.low", {"by": abs(by)}
        ),
    )


def enlarge(evaluation: Evaluation, vessel: Vessel, level: float) -> tuple[Offer, ...]:
    """Make a vessel larger and fill it up to its freeboard, so that its lowest reaches a level.

    Parameters
    ----------
    evaluation : Evaluation
        The plan's numbers
    vessel : Vessel
        The vessel
    level : float
        A level over the datum, [m]

    Returns
    -------
    tuple of Offer
        One; none if it stands at one level with others, if its shell keeps its shape, or if it
        would have to be more than three times as large
    """
    shape, depth = vessel.shape, mark_below(vessel.shape.height - vessel.freeboard)
    if not shape.SCALED or len(_together(evaluation, vessel)) > 1 or depth <= 0.0:
        return ()
    dimension = shape.SCALED[0]
    size, given = getattr(shape, dimension), _given(evaluation, vessel, [vessel])

    def holds(by: float) -> bool:
        wider = shape.model_copy(update={dimension: by * size})
        storage = storage_of(evaluation.plan, vessel.model_copy(update={"shape": wider}))
        left = storage.volume_at(depth) - given
        return left >= storage.volume_at(level - vessel.floor_height)

    if not holds(_MOST_LARGER):
        return ()
    new = math.ceil(100.0 * size * halving.least(holds, 1.0, _MOST_LARGER, _HALVINGS)) / 100.0
    more = shape.model_copy(update={dimension: new}).capacity - shape.capacity
    return (
        Offer(
            f"make {named(vessel)} {{more:volume}} larger and fill it to {{depth:length}}",
            (
                Edit(f"vessels.{vessel.id}.shape.{dimension}", new),
                Edit(f"vessels.{vessel.id}.water_depth", depth),
            ),
            f"{vessel.id}.low",
            {"more": more, "depth": depth},
        ),
    )


def fill_needed(evaluation: Evaluation, vessel: Vessel, level: float) -> float:
    """How much higher to fill a vessel at rest, for its lowest to reach a level [m].

    What it gives away is a volume, whatever the level: what the other vessels of its loop ever
    take up beyond their rest, and what fills the pipes.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    vessel : Vessel
        The vessel
    level : float
        A level over the datum, [m]

    Returns
    -------
    float
        How much higher, [m]
    """
    result = evaluation.vessels[vessel.id]
    vessels = _together(evaluation, vessel)
    storage, floor = _storage(evaluation, vessels), vessel.floor_height
    given = _given(evaluation, vessel, vessels)
    wanted = storage.level_at(storage.volume_at(level - floor) + given)
    return max(wanted - (result.levels.at_rest - floor), 0.001)


def _given(evaluation: Evaluation, vessel: Vessel, vessels: list[Vessel]) -> float:
    """Water that vessels at one level give away from rest on [m³]."""
    levels, floor = evaluation.vessels[vessel.id].levels, vessel.floor_height
    storage = _storage(evaluation, vessels)
    given = storage.volume_at(levels.at_rest - floor) - storage.volume_at(levels.low - floor)
    if levels.low - floor <= 1e-9:  # it is empty before it has given all
        given = max(given, 1.05 * _given_away(evaluation, vessel, {v.id for v in vessels}))
    return given


def _given_away(evaluation: Evaluation, vessel: Vessel, own: set[str]) -> float:
    """Water that the other vessels of a loop take up beyond their rest [m³]."""
    closing = evaluation.balance.closing
    total = 0.0
    for id_, closer in closing.items():
        if closer == closing.get(vessel.id, vessel.id) and id_ not in own:
            other = evaluation.vessels[id_]
            storage = storage_of(evaluation.plan, other.vessel)
            high = storage.volume_at(other.levels.high - other.vessel.floor_height)
            total += high - other.rest_volume
    return total + evaluation.balance.pipe_volume
