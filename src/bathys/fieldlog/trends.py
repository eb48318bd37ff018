"""What a series of measurements says: whether the last ones are news, and where it is going."""

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

__all__ = ["EwmaPoint", "Trend", "ewma_news", "trend_of"]

_FEWEST = 3  # measurements from which a trend is told
_LEAST_DAYS = 3.0  # and days they lie apart [d]
_SURE = 2.0  # a slope over so many of its own spreads is told [-]


@dataclass(frozen=True, slots=True)
class EwmaPoint:
    """A measurement on a control chart.

    Attributes
    ----------
    value : float
        The weighted mean up to it, in the unit of the measurements
    low, high : float
        Control limits there, in that unit
    """

    value: float
    low: float
    high: float

    @property
    def is_news(self) -> bool:
        """Whether it lies beyond its limits."""
        return not self.low <= self.value <= self.high


def ewma_news(
    values: Sequence[float], target: float, spread: float, weight: float = 0.2, width: float = 2.7
) -> tuple[EwmaPoint, ...]:
    """An exponentially weighted moving average with its limits.

    z_i = λ x_i + (1 − λ) z_(i−1), limits μ ± L σ √(λ/(2 − λ) (1 − (1 − λ)^(2i))); Montgomery,
    Introduction to Statistical Quality Control, chapter 9.

    Parameters
    ----------
    values : sequence of float
        Measurements in their order, [any]
    target, spread : float
        What they are to be, and their standard spread, [as these]
    weight, width : float
        λ and L, [-]

    Returns
    -------
    tuple of EwmaPoint
        One for each, [as these]
    """
    points, mean = list[EwmaPoint](), target
    for number, value in enumerate(values, start=1):
        mean = weight * value + (1.0 - weight) * mean
        reach = weight / (2.0 - weight) * (1.0 - (1.0 - weight) ** (2 * number))
        half = width * spread * math.sqrt(reach)
        points.append(EwmaPoint(mean, target - half, target + half))
    return tuple(points)


@dataclass(frozen=True, slots=True)
class Trend:
    """Where measurements are going.

    Attributes
    ----------
    days : float
        From the first to the last, [d]
    first, last : float
        The straight line at either, in the unit of the measurements
    """

    days: float
    first: float
    last: float

    @property
    def change(self) -> float:
        """From the first to the last, over the first [-]."""
        return self.last / self.first - 1.0 if self.first else 0.0

    def days_until(self, limit: float) -> float | None:
        """How long until it comes to a limit at this pace.

        Parameters
        ----------
        limit : float
            The limit, in the unit of the measurements

        Returns
        -------
        float or None
            From the last on, [d]; None if it goes the other way or is beyond already
        """
        pace = (self.last - self.first) / self.days
        ahead = limit - self.last
        return ahead / pace if pace != 0.0 and ahead / pace > 0.0 else None


def trend_of(days: Sequence[float], values: Sequence[float]) -> Trend | None:
    """The straight line through measurements, by least squares.

    Parameters
    ----------
    days : sequence of float
        When they were made, [d]
    values : sequence of float
        What they came to, [any]

    Returns
    -------
    Trend or None
        None where they are too few, too near in time, or scatter more than they go anywhere
    """
    if len(days) < _FEWEST or max(days) - min(days) < _LEAST_DAYS:
        return None
    fit = statistics.linear_regression(days, values)
    middle = statistics.fmean(days)
    square = sum((d - middle) ** 2 for d in days)
    left = sum((v - fit.intercept - fit.slope * d) ** 2 for d, v in zip(days, values, strict=True))
    doubt = math.sqrt(left / max(len(days) - 2, 1) / square)
    if abs(fit.slope) <= _SURE * doubt:
        return None
    begin, end = min(days), max(days)
    return Trend(end - begin, fit.intercept + fit.slope * begin, fit.intercept + fit.slope * end)
