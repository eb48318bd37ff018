"""Points of a pump's curve read off a picture: two marks on each axis, and points along it."""

from collections.abc import Sequence
from dataclasses import dataclass

__all__ = ["AxisMarks", "BadPicture", "points_off_picture"]

XY = tuple[float, float]
_ALIKE = 1e-6  # sine of the angle between axes, below which they are one [-]
_NEAR = 2.0  # pixels between two marks, which cannot be told apart below [px]


class BadPicture(ValueError):
    """What was pressed in a picture makes no curve; says why."""


@dataclass(frozen=True, slots=True)
class AxisMarks:
    """Two marks of an axis.

    Attributes
    ----------
    first, second : (float, float)
        Where they are pressed, x to the right and y down, [px]
    first_value, second_value : float
        What the axis reads there, in the unit wanted, [m³/s] or [m]
    """

    first: XY
    second: XY
    first_value: float
    second_value: float


def points_off_picture(
    flow: AxisMarks, head: AxisMarks, pressed: Sequence[XY]
) -> tuple[tuple[float, float], ...]:
    """Flows and heads of the points that are pressed.

    The picture may lie askew: each axis is the line through its two marks, and a point is told by
    how far it lies along both.

    Parameters
    ----------
    flow, head : AxisMarks
        Marks of both axes
    pressed : sequence of (float, float)
        Points along the curve, [px]

    Returns
    -------
    tuple of (float, float)
        Flow [m³/s] and head [m], the least flow first. What lies a little beyond an axis is on it

    Raises
    ------
    BadPicture
        If an axis cannot be told, or too few points are pressed
    """
    along, up = _way(flow), _way(head)
    for axis, way, name in ((flow, along, "flow"), (head, up, "lift")):
        if (way[0] ** 2 + way[1] ** 2) ** 0.5 < _NEAR:
            raise BadPicture(f"Press the two marks of the {name} axis farther apart.")
        if axis.first_value == axis.second_value:
            raise BadPicture(f"The two marks of the {name} axis must read something else each.")
    cross = along[0] * up[1] - along[1] * up[0]
    if abs(cross) <= _ALIKE * (along[0] ** 2 + along[1] ** 2 + up[0] ** 2 + up[1] ** 2):
        raise BadPicture("Both axes lie on one line; press their marks again.")
    if len(pressed) < 2:
        raise BadPicture("Press at least two points along the curve.")
    found = []
    for x, y in pressed:
        of_flow = _share((x - flow.first[0], y - flow.first[1]), up, along, cross)
        of_head = _share((x - head.first[0], y - head.first[1]), along, up, -cross)
        found.append(
            (
                max(flow.first_value + of_flow * (flow.second_value - flow.first_value), 0.0),
                max(head.first_value + of_head * (head.second_value - head.first_value), 0.0),
            )
        )
    return tuple(sorted(found))


def _way(axis: AxisMarks) -> XY:
    return axis.second[0] - axis.first[0], axis.second[1] - axis.first[1]


def _share(off: XY, other: XY, own: XY, cross: float) -> float:
    """How far along its own axis a point lies, as a share of its two marks [-]."""
    return (off[0] * other[1] - off[1] * other[0]) / cross
