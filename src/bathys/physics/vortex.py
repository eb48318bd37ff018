"""How deep an inlet must lie for no vortex to draw air into it."""

import math

from bathys.physics import GRAVITY, area_of

__all__ = ["least_submergence"]


def least_submergence(flow: float, bore: float) -> float:
    """Least water over an inlet's mouth.

    S = D (1 + 2.3 Fr), Fr = V/√(g D).

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    bore : float
        Diameter of the mouth, [m]

    Returns
    -------
    float
        Water over the mouth, [m]

    References
    ----------
    ANSI/HI 9.8, rotodynamic pumps for pump intake design (memory).

    Examples
    --------
    >>> round(least_submergence(0.0, 0.04), 3)
    0.04
    """
    froude = flow / area_of(bore) / math.sqrt(GRAVITY * bore)
    return bore * (1.0 + 2.3 * froude)
