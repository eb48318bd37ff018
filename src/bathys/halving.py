"""Halving a bracket: where something that rises or falls once stops or begins to hold."""

from collections.abc import Callable

__all__ = ["greatest", "least"]


def greatest(holds: Callable[[float], bool], low: float, high: float, halvings: int) -> float:
    """The greatest value at which something still holds.

    Parameters
    ----------
    holds : callable
        Whether it holds at a value; from ``low`` up to some value it does, and beyond not
    low, high : float
        The bracket, [any]
    halvings : int
        How often the bracket is halved

    Returns
    -------
    float
        The lower end of what is left of the bracket, [as the bracket]
    """
    for _ in range(halvings):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low


def least(holds: Callable[[float], bool], low: float, high: float, halvings: int) -> float:
    """The least value from which something holds; else as :func:`greatest`, the upper end.

    Parameters
    ----------
    holds : callable
        Whether a value will do
    low : float
        Least value looked at, [any]
    high : float
        Greatest value looked at, [any]
    halvings : int
        How often the span is halved

    Returns
    -------
    float
        The value, [as the bracket]
    """
    for _ in range(halvings):
        middle = 0.5 * (low + high)
        low, high = (low, middle) if holds(middle) else (middle, high)
    return high
