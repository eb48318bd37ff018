"""How grains fall, and what a basin catches of them."""

import math

from bathys.physics import GRAVITY

__all__ = ["basin_capture", "fall_speed", "ideal_capture"]

_DRAG = 1.0
"""C2 of natural grains (Ferguson & Church 2004)."""


def fall_speed(grain: float, excess: float, viscosity: float) -> float:
    """Speed at which a grain falls in still water.

    w = R g D² / (18 ν + √(0.75 C2 R g D³)): Stokes for fine grains, constant drag for coarse ones.

    Parameters
    ----------
    grain : float
        Diameter, [m]
    excess : float
        R, its density over the water's less one, [-]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    float
        Fall speed, [m/s]

    References
    ----------
    Ferguson & Church (2004), "A simple universal equation for grain settling velocity",
    J. Sedimentary Research 74, 933.

    Examples
    --------
    >>> round(1000 * fall_speed(0.0006, 0.1, 1.14e-6), 1)
    10.7
    """
    push = excess * GRAVITY * grain**2
    return push / (18.0 * viscosity + math.sqrt(0.75 * _DRAG * excess * GRAVITY * grain**3))


def ideal_capture(fall: float, rate: float) -> float:
    """Share of grains of one fall speed that an ideal basin catches: min(1, v_s/v_o).

    Parameters
    ----------
    fall : float
        Fall speed, [m/s]
    rate : float
        Overflow rate, the flow over the open area, [m/s]

    Returns
    -------
    float
        Share, [-]

    References
    ----------
    Hazen (1904), "On sedimentation".
    """
    return min(1.0, fall / rate) if rate > 0.0 else 1.0


def basin_capture(fall: float, rate: float, steps: float) -> float:
    """Share of grains of one fall speed that a real basin catches.

    1 − (1 + v_s/(n v_o))^−n, with n from 1 for one that mixes to 8 for a good one; the ideal basin
    of the well-mixed layers as n grows.

    Parameters
    ----------
    fall : float
        Fall speed, [m/s]
    rate : float
        Overflow rate, the flow over the open area, [m/s]
    steps : float
        n, [-]

    Returns
    -------
    float
        Share, [-]

    References
    ----------
    Fair & Geyer (1954), "Water Supply and Waste-Water Disposal" (memory).

    Examples
    --------
    >>> round(basin_capture(0.003, 0.003, 1.0), 2)
    0.5
    """
    if rate <= 0.0:
        return 1.0
    passes: float = (1.0 + fall / (steps * rate)) ** -steps
    return 1.0 - passes
