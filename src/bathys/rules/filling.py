"""How much higher a vessel must be filled, and the offer to do so.

Vessels that stand at one level, such as twin sumps, are filled together.
"""

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.parts.rounding import mark_above, mark_below
from bathys.plan.naming import named
from bathys.plan.places import part_id
from bathys.plan.vessel import Vessel
from bathys.rules.registry import Offer
from bathys.vessels import Storage, joined, storage_of

__all__ = ["fill", "fill_needed"]

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
    rest = storage.volume_at(result.levels.at_rest - floor)
    given = rest - storage.volume_at(result.levels.low - floor)
    if result.levels.low - floor <= 1e-9:
        given = max(given, 1.05 * _given_away(evaluation, vessel, {v.id for v in vessels}))
    wanted = storage.level_at(storage.volume_at(level - floor) + given)
    return max(wanted - (result.levels.at_rest - floor), 0.001)


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
