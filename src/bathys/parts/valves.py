"""Losses of throttling valves: a ball by the angle of its handle, a gate by its opening."""

import math
from bisect import bisect_right

from bathys.halving import least

__all__ = ["SHUT_ANGLE", "ball_valve_angle", "ball_valve_loss", "gate_valve_loss"]

SHUT_ANGLE = 80.0
"""Handle angle from which a ball valve counts as shut [°]."""

_HALVINGS = 50

# Handle angle from open [°] and K: Weisbach's cock (memory).
_ANGLES = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0, 55.0, 60.0, 65.0)
_LOSSES = (0.05, 0.29, 0.75, 1.56, 3.1, 5.5, 9.7, 17.3, 31.0, 53.0, 106.0, 206.0, 486.0)
_JUST_SHUT = 82.0


def ball_valve_loss(angle: float) -> float:
    """K of a ball valve from the angle of its handle, counted from open.

    Parameters
    ----------
    angle : float
        Handle angle, 0 open to 90 shut, [°]

    Returns
    -------
    float
        K on the pipe's bore, infinite when shut, [-]

    Raises
    ------
    ValueError
        If the angle is below 0 or above 90

    References
    ----------
    Weisbach's table for a cock (memory), log K interpolated; 0.01 per degree below 5°;
    K = 486 (17/(82 − θ))^3.3 above 65° (assumed, to join the table to shut).

    Examples
    --------
    >>> ball_valve_loss(45.0)
    31.0
    """
    if not 0.0 <= angle <= 90.0:
        raise ValueError("a ball valve's handle turns from 0° (open) to 90° (shut)")
    if angle >= SHUT_ANGLE:
        return math.inf
    if angle < _ANGLES[0]:
        return max(0.05, 0.01 * angle)
    if angle > _ANGLES[-1]:
        return float(486.0 * ((_JUST_SHUT - 65.0) / (_JUST_SHUT - angle)) ** 3.3)
    i = min(bisect_right(_ANGLES, angle) - 1, len(_ANGLES) - 2)
    share = (angle - _ANGLES[i]) / (_ANGLES[i + 1] - _ANGLES[i])
    low, high = _LOSSES[i], _LOSSES[i + 1]
    if share == 0.0:
        return low
    return high if share == 1.0 else float(low * (high / low) ** share)


def ball_valve_angle(loss: float) -> float:
    """Handle angle at which a ball valve has a loss: the inverse of :func:`ball_valve_loss`.

    Parameters
    ----------
    loss : float
        K on the pipe's bore, [-]

    Returns
    -------
    float
        Angle from open, 0 for a loss no more than that of an open valve, [°]

    Examples
    --------
    >>> round(ball_valve_angle(17.3), 6)
    40.0
    """
    if loss <= ball_valve_loss(0.0):
        return 0.0
    return least(lambda angle: ball_valve_loss(angle) >= loss, 0.0, SHUT_ANGLE, _HALVINGS)


# Share open and K: Weisbach's gate in a round pipe (memory).
_GATES = (0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1.0)
_GATE_LOSSES = (97.8, 17.0, 5.52, 2.06, 0.81, 0.26, 0.07, 0.05)
_GATE_SHUT = 0.02


def gate_valve_loss(share_open: float) -> float:
    """K of a gate valve from the share of its bore that is open.

    Parameters
    ----------
    share_open : float
        0 shut to 1 open, [-]

    Returns
    -------
    float
        K on the pipe's bore, infinite at or below 0.02, [-]

    Raises
    ------
    ValueError
        If the share is below 0 or above 1

    References
    ----------
    Weisbach's table for a gate in a round pipe (memory), log K against log share; below an
    eighth the same line goes on.

    Examples
    --------
    >>> round(gate_valve_loss(0.5), 6)
    2.06
    """
    if not 0.0 <= share_open <= 1.0:
        raise ValueError("a gate opens from 0 (shut) to 1 (open)")
    if share_open <= _GATE_SHUT:
        return math.inf
    i = min(max(bisect_right(_GATES, share_open) - 1, 0), len(_GATES) - 2)
    share = math.log(share_open / _GATES[i]) / math.log(_GATES[i + 1] / _GATES[i])
    return float(_GATE_LOSSES[i] * (_GATE_LOSSES[i + 1] / _GATE_LOSSES[i]) ** share)
