"""Steps towards the levels that close each loop."""

import math
from collections.abc import Mapping

__all__ = ["greatest_move", "narrowed", "sharpness", "step_towards"]

_FORGET, _SHARPEST = 0.9, 200.0


def sharpness(at: float, off: float, last: tuple[float, float] | None, before: float) -> float:
    """How many times its own move a level changes what it is off by: as seen last, or what was
    seen before and is slowly forgotten.

    Parameters
    ----------
    at, off : float
        The level, and by how much it is off, [m]
    last : (float, float) or None
        The same a step before, [m]
    before : float
        What was seen before, [-]

    Returns
    -------
    float
        The sharpness, [-]
    """
    seen = (last[1] - off) / (at - last[0]) if last is not None and at != last[0] else 0.0
    return min(max(seen, _FORGET * before, 1.0), _SHARPEST)


def step_towards(at: float, off: float, last: tuple[float, float] | None) -> float:
    """How far to move a level that is off by so much: a secant step once there are two points.

    Two equal sumps joined by a pipe would else change places for ever: what one is short of, the
    other is given as well.

    Parameters
    ----------
    at, off : float
        The level, and by how much it is off, [m]
    last : (float, float) or None
        The same a step before, [m]

    Returns
    -------
    float
        The step, [m]
    """
    if last is None or abs(last[1] - off) < 1e-9:
        return off
    rate = (off - last[1]) / (at - last[0]) if at != last[0] else -1.0
    return -off / rate if rate < -0.2 else off


def narrowed(between: tuple[float, float], at: float, off: float) -> tuple[float, float]:
    """Levels between which the right one lies, by what one level was off; begun again where they
    contradict each other, since other levels moved meanwhile.

    Parameters
    ----------
    between : (float, float)
        Levels that were known to lie on both sides, [m]
    at, off : float
        A level, and by how much it is off, [m]

    Returns
    -------
    (float, float)
        Levels on both sides, [m]
    """
    low, high = (
        (max(between[0], at), between[1]) if off > 0.0 else (between[0], min(between[1], at))
    )
    if low < high:
        return low, high
    return (at, math.inf) if off > 0.0 else (-math.inf, at)


def greatest_move(before: Mapping[str, float], after: Mapping[str, float]) -> float:
    """How far the level that moved most has moved.

    Parameters
    ----------
    before, after : mapping of str to float
        Levels by node, [m]

    Returns
    -------
    float
        The move, [m]
    """
    return max((abs(z - before.get(n, z)) for n, z in after.items()), default=0.0)
