"""Numbers that a builder can mark and set: whole millimetres, tenths of a degree.

What is worked out to many digits is put into a plan so, rounded to the side that is asked for.
"""

import math

__all__ = ["handle", "mark_above", "mark_below", "whole_days"]

_MARK = 1000.0  # a metre's marks
_ALIKE = 1e-6  # of a mark: the same number, but for what arithmetic left on it


def mark_above(height: float) -> float:
    """The first whole millimetre at or over a height [m].

    Parameters
    ----------
    height : float
        Height, [m]

    Returns
    -------
    float
        The height, [m]
    """
    return math.ceil(height * _MARK - _ALIKE) / _MARK


def mark_below(height: float) -> float:
    """The last whole millimetre at or under a height [m].

    Parameters
    ----------
    height : float
        Height, [m]

    Returns
    -------
    float
        The height, [m]
    """
    return math.floor(height * _MARK + _ALIKE) / _MARK


def handle(angle: float) -> float:
    """The nearest tenth of a degree [°].

    Parameters
    ----------
    angle : float
        Angle of the handle, [°]

    Returns
    -------
    float
        The angle, [°]
    """
    return round(angle, 1)


def whole_days(days: float) -> float:
    """A time between two things done by hand, in days that one remembers.

    Parameters
    ----------
    days : float
        At most, [d]

    Returns
    -------
    float
        Whole days, at least half of one, [d]
    """
    return max(math.floor(days), 0.5)
