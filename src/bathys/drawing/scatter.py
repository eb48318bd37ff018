"""A chart of points: where each stands between the least and the most of two measures."""

from collections.abc import Sequence
from dataclasses import dataclass

__all__ = ["ScatterChart", "Spot", "scatter_chart"]

_WIDE, _TALL = 640.0, 320.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 64.0, 24.0, 34.0, 46.0
_TICKS = 5
_ROOM = 0.08  # of a measure's range, left free at either end


@dataclass(frozen=True, slots=True)
class Spot:
    """One point.

    Attributes
    ----------
    number : int
        Which one of those given
    x, y : float
        Its place, [px]
    """

    number: int
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class ScatterChart:
    """Points with their axes.

    Attributes
    ----------
    width, height : float
        Of the picture, [px]
    left, right, top, bottom : float
        Edges of the room for points, [px]
    spots : tuple of Spot
        The points, in their order
    across, up : tuple of (float, float)
        Ticks: place, [px], and value, in the units given
    """

    width: float
    height: float
    left: float
    right: float
    top: float
    bottom: float
    spots: tuple[Spot, ...]
    across: tuple[tuple[float, float], ...]
    up: tuple[tuple[float, float], ...]


def scatter_chart(points: Sequence[tuple[float, float]]) -> ScatterChart:
    """Lay out points.

    Parameters
    ----------
    points : sequence of (float, float)
        What is drawn across and up, [any]; at least one

    Returns
    -------
    ScatterChart
        The points, each axis from a little under the least to a little over the most
    """
    right, bottom = _WIDE - _RIGHT, _TALL - _BOTTOM
    low_x, high_x = _range([x for x, _ in points])
    low_y, high_y = _range([y for _, y in points])

    def across(value: float) -> float:
        return round(_LEFT + (value - low_x) / (high_x - low_x) * (right - _LEFT), 1)

    def up(value: float) -> float:
        return round(bottom - (value - low_y) / (high_y - low_y) * (bottom - _TOP), 1)

    spots = tuple(Spot(n, across(x), up(y)) for n, (x, y) in enumerate(points))
    return ScatterChart(
        _WIDE,
        _TALL,
        _LEFT,
        right,
        _TOP,
        bottom,
        spots,
        tuple((across(v), v) for v in _ticks(low_x, high_x)),
        tuple((up(v), v) for v in _ticks(low_y, high_y)),
    )


def _range(values: Sequence[float]) -> tuple[float, float]:
    low, high = min(values), max(values)
    spread = max(high - low, 0.1 * abs(high), 1e-6)
    middle = 0.5 * (low + high)
    return middle - (0.5 + _ROOM) * spread, middle + (0.5 + _ROOM) * spread


def _ticks(low: float, high: float) -> list[float]:
    """Round values between two, at equal steps of 1, 2 or 5 times a power of ten."""
    step = next(
        s
        for power in range(-6, 9)
        for s in (10.0**power, 2.0 * 10.0**power, 5.0 * 10.0**power)
        if (high - low) / s <= _TICKS
    )
    first = int(-(-low // step))
    return [round(n * step, 9) for n in range(first, int(high // step) + 1)]
