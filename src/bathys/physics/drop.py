"""Water falling down an upright pipe: airy, surging or full."""

import math
from typing import Literal

from bathys.physics import GRAVITY, area_of

__all__ = ["SELF_VENTING_LIMIT", "DropRegime", "drop_froude", "drop_regime"]

SELF_VENTING_LIMIT = 0.31
"""Froude number up to which a drop vents itself (Simpson 1968; Hills 1983, memory) [-]."""

_SURGE_LIMIT, _FULL_LIMIT = 1.0, 2.0

DropRegime = Literal["vents itself", "surges", "mostly full", "full siphon"]


def drop_froude(flow: float, bore: float) -> float:
    """Froude number of a drop: V/√(g D).

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    bore : float
        Inside diameter, [m]

    Returns
    -------
    float
        Froude number, [-]
    """
    return flow / (area_of(bore) * math.sqrt(GRAVITY * bore))


def drop_regime(froude: float) -> DropRegime:
    """What a drop does at a Froude number.

    Parameters
    ----------
    froude : float
        V/√(g D), [-]

    Returns
    -------
    str
        ``vents itself`` to 0.31, ``surges`` to 1, ``mostly full`` to 2, ``full siphon`` above [-]

    References
    ----------
    Simpson (1968); Hills (1983) (memory).

    Examples
    --------
    >>> drop_regime(0.5)
    'surges'
    """
    if froude <= SELF_VENTING_LIMIT:
        return "vents itself"
    if froude <= _SURGE_LIMIT:
        return "surges"
    return "mostly full" if froude <= _FULL_LIMIT else "full siphon"
