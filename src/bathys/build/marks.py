"""Levels to mark on each vessel."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.practice import LEAST_COVER
from bathys.plan.vessel import Vessel

__all__ = ["Marks", "marks_of"]


@dataclass(frozen=True, slots=True)
class Marks:
    """Levels over a vessel's floor [m].

    Attributes
    ----------
    vessel : Vessel
        The vessel
    low, high : float
        Lowest and highest water with the pumps running
    at_rest : float
        After a power cut
    safe : float or None
        Lowest that a pump in it may fall to; none where none stands
    sludge : float or None
        At which a settler is emptied; none for what is no settler
    """

    vessel: Vessel
    low: float
    high: float
    at_rest: float
    safe: float | None
    sludge: float | None


def marks_of(found: Evaluation) -> tuple[Marks, ...]:
    """What is painted on each vessel.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Marks
        In the plan's order
    """
    rows = []
    for result in found.vessels.values():
        vessel, floor = result.vessel, result.vessel.floor_height
        inlets = [p.inlet_height for p in found.plan.pumps if p.stands_in == vessel.id]
        inside = vessel.settler
        rows.append(
            Marks(
                vessel,
                result.levels.low - floor,
                result.levels.high - floor,
                result.levels.at_rest - floor,
                max(inlets) + LEAST_COVER if inlets else None,
                inside.sludge_mark if inside is not None and inside.sludge_mark > 0.0 else None,
            )
        )
    return tuple(rows)
