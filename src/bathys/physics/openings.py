"""Flow over rims and through holes."""

import numpy as np
from numpy.typing import NDArray

from bathys.physics import GRAVITY, area_of

__all__ = [
    "ORIFICE_COEFFICIENT",
    "RIM_ORIFICE_COEFFICIENT",
    "RIM_WEIR_COEFFICIENT",
    "manifold_unevenness",
    "orifice_loss_coefficient",
    "rim_flow",
    "rim_head",
]

Floats = NDArray[np.float64]

RIM_WEIR_COEFFICIENT = 1.8
"""Cw of a thin rim acting as a weir [m^0.5/s] (shaft-spillway practice, memory)."""

RIM_ORIFICE_COEFFICIENT = 0.6
"""Cd of a drowned rim [-] (shaft-spillway practice, memory)."""

ORIFICE_COEFFICIENT = 0.62
"""Cd of a sharp drilled hole or slot [-] (Crane TP-410, memory)."""


def rim_flow(head: Floats, bore: float) -> Floats:
    """Flow falling over the rim of an open standpipe.

    Q = min(Cw π D h^1.5, Cd (π/4) D² √(2 g h)): first a weir along the rim, then, from about
    0.37 D, a drowned mouth. Doubt about −15 % between 0.2 D and 0.5 D.

    Parameters
    ----------
    head : array
        Level over the rim; nothing flows at or below 0, [m]
    bore : float
        Inside diameter of the standpipe, [m]

    Returns
    -------
    array
        Flow, [m³/s]

    References
    ----------
    Shaft (morning-glory) spillway practice, coefficients from memory.
    """
    over = np.maximum(head, 0.0)
    weir = RIM_WEIR_COEFFICIENT * np.pi * bore * over**1.5
    mouth = RIM_ORIFICE_COEFFICIENT * area_of(bore) * np.sqrt(2.0 * GRAVITY * over)
    return np.minimum(weir, mouth)


def rim_head(flow: float, bore: float) -> float:
    """Level over a standpipe's rim that passes a flow: the inverse of :func:`rim_flow`.

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    bore : float
        Inside diameter of the standpipe, [m]

    Returns
    -------
    float
        Level over the rim, [m]
    """
    weir: float = (flow / (RIM_WEIR_COEFFICIENT * np.pi * bore)) ** (2.0 / 3.0)
    speed = flow / (RIM_ORIFICE_COEFFICIENT * area_of(bore))
    mouth: float = speed**2 / (2.0 * GRAVITY)
    return max(weir, mouth)


def orifice_loss_coefficient(coefficient: float = ORIFICE_COEFFICIENT) -> float:
    """Loss of a hole between two pools, as K on the hole's own area: K = 1/Cd².

    Parameters
    ----------
    coefficient : float
        Discharge coefficient Cd, [-]

    Returns
    -------
    float
        K, [-]

    Notes
    -----
    The jet's whole velocity head is lost in the pool beyond, so K counts it.
    """
    return 1.0 / coefficient**2


def manifold_unevenness(holes: float, pipe: float) -> float:
    """How much more the last hole of a pipe closed at its end gives than the first.

    Water that slows down along the pipe gives its velocity head back as pressure: the last hole
    has the whole of it, H, and the first H − V²/2g, with V the speed in the pipe and
    H = (Q/(Cd A))²/2g. Friction, which works against it, is left out: it is the most for a short
    bar.

    Parameters
    ----------
    holes : float
        Area of all holes, [m²]
    pipe : float
        Area of the pipe, [m²]

    Returns
    -------
    float
        Difference over the last hole's flow, at most 1, [-]

    References
    ----------
    Derived; the rule "holes together less than the pipe" of manifold practice (memory) follows.

    Examples
    --------
    >>> round(manifold_unevenness(1e-4, 2e-4), 3)
    0.049
    """
    ratio = ORIFICE_COEFFICIENT * holes / pipe
    return float(1.0 - np.sqrt(max(1.0 - ratio * ratio, 0.0)))
