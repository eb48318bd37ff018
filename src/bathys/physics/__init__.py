"""One published relation a function, SI units, no knowledge of plans.

Angles are in degrees and temperatures in degrees Celsius; all else is in SI base units.
"""

import math

__all__ = ["GRAVITY", "area_of"]

GRAVITY = 9.80665
"""Standard acceleration of free fall [m/s²] (3rd CGPM, 1901)."""


def area_of(diameter: float) -> float:
    """Area of a circle [m²] of a diameter [m].

    Parameters
    ----------
    diameter : float
        Diameter, [m]

    Returns
    -------
    float
        The area, [m²]
    """
    return 0.25 * math.pi * diameter**2
