"""Flow over edges: notches, slots and rims."""

import math

from bathys.physics import GRAVITY

__all__ = ["broad_weir_constant", "notch_constant", "slot_constant"]

_NOTCH_COEFFICIENT = 0.58  # of a thin V-notch, 25° to 100° (ISO 1438; Shen 1981, memory)
_SLOT_COEFFICIENT = 0.60  # of a thin contracted slot (Kindsvater and Carter 1957, memory)
_RIM_COEFFICIENT = 1.7  # of a broad rim, Q = 1.7 L h^1.5 [m^0.5/s] (published, memory)


def notch_constant(angle: float) -> float:
    """Flow through a thin-plate V-notch at a level of one metre over its point.

    Q = (8/15) Cd √(2 g) tan(θ/2) h^2.5.

    Parameters
    ----------
    angle : float
        Opening angle, [rad]

    Returns
    -------
    float
        Flow over h^2.5, [m^0.5/s]

    References
    ----------
    ISO 1438:2017, thin-plate weirs (memory).

    Examples
    --------
    >>> round(notch_constant(math.pi / 2.0), 2)
    1.37
    """
    return 8.0 / 15.0 * _NOTCH_COEFFICIENT * math.sqrt(2.0 * GRAVITY) * math.tan(0.5 * angle)


def slot_constant(width: float) -> float:
    """Flow through a thin rectangular slot at a level of one metre over its edge.

    Q = (2/3) Cd √(2 g) b h^1.5.

    Parameters
    ----------
    width : float
        Width of the slot, [m]

    Returns
    -------
    float
        Flow over h^1.5, [m^1.5/s]

    References
    ----------
    ISO 1438:2017, thin-plate weirs (memory).
    """
    return 2.0 / 3.0 * _SLOT_COEFFICIENT * math.sqrt(2.0 * GRAVITY) * width


def broad_weir_constant(length: float) -> float:
    """Flow over a length of broad rim at a level of one metre over it.

    Q = 1.7 L h^1.5.

    Parameters
    ----------
    length : float
        Length of the rim, [m]

    Returns
    -------
    float
        Flow over h^1.5, [m^1.5/s]

    References
    ----------
    Broad-crested weir (published, memory).
    """
    return _RIM_COEFFICIENT * length
