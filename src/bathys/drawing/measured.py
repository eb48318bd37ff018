"""Measured levels over the side view: a line across each vessel, over the water expected."""

from collections.abc import Mapping
from dataclasses import dataclass

from bathys.drawing.frame import Frame
from bathys.plan.model import Plan

__all__ = ["MeasuredLine", "measured_lines"]

_INSET = 3.0  # from either wall [px]


@dataclass(frozen=True, slots=True)
class MeasuredLine:
    """Where a measured level lies in the picture.

    Attributes
    ----------
    vessel : str
        Id of the vessel
    left, right, y : float
        The line, [px]
    """

    vessel: str
    left: float
    right: float
    y: float


def measured_lines(plan: Plan, heights: Mapping[str, float]) -> tuple[MeasuredLine, ...]:
    """Lines of measured levels.

    Parameters
    ----------
    plan : Plan
        The plan
    heights : mapping of str to float
        Water over the floor, by the vessel's id, [m]

    Returns
    -------
    tuple of MeasuredLine
        One for each that is in the plan, kept within the vessel's walls
    """
    frame = Frame(plan)
    lines = []
    for vessel in plan.vessels:
        if vessel.id in heights:
            left, right = frame.edges(vessel.id)
            height = min(max(heights[vessel.id], 0.0), vessel.shape.height)
            y = frame.y(vessel.floor_height + height)
            lines.append(MeasuredLine(vessel.id, left + _INSET, right - _INSET, y))
    return tuple(lines)
