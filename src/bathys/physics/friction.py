"""Friction in straight, full pipes: Darcy–Weisbach with a continuous friction factor.

The relations are compiled, since every solver calls them thousands of times; each takes arrays
that broadcast against each other.
"""

import math

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing, over_arrays
from bathys.physics import GRAVITY

__all__ = [
    "LAMINAR_LIMIT",
    "TURBULENT_LIMIT",
    "colebrook",
    "friction_factor",
    "friction_head",
    "hazen_williams_head",
    "head_and_slope",
]

Floats = NDArray[np.float64]

LAMINAR_LIMIT = 2000.0
"""Reynolds number up to which flow is taken as laminar."""

TURBULENT_LIMIT = 4000.0
"""Reynolds number from which Colebrook–White holds."""

_TEN = 2.0 / math.log(10.0)  # turns the natural logarithm into 2 log₁₀
_NEWTON_STEPS = 2
"""From Haaland's start (within 2 %) two Newton steps come within 1e-9 of the root."""
_LEAST_FLOW = 1e-15  # keeps 64/Re finite; the head itself goes to 0 [m³/s]


@njit_borrowing
def _colebrook(reynolds: float, relative_roughness: float) -> tuple[float, float]:
    wall = relative_roughness / 3.7
    x = -1.8 * math.log10(wall**1.11 + 6.9 / reynolds)
    film = 2.51 / reynolds
    for _ in range(_NEWTON_STEPS):
        inside = wall + film * x
        x = x - (x + _TEN * math.log(inside)) / (1.0 + _TEN * film / inside)
    inside = wall + film * x
    share = _TEN * film / inside
    f = 1.0 / (x * x)
    return f, -2.0 * f * share / (reynolds * (1.0 + share))


@njit_borrowing
def _factor(reynolds: float, relative_roughness: float) -> tuple[float, float]:
    if reynolds <= LAMINAR_LIMIT:
        return 64.0 / reynolds, -64.0 / reynolds**2
    if reynolds >= TURBULENT_LIMIT:
        return _colebrook(reynolds, relative_roughness)
    turbulent, _ = _colebrook(TURBULENT_LIMIT, relative_roughness)
    laminar = 64.0 / LAMINAR_LIMIT
    slope = (turbulent - laminar) / (TURBULENT_LIMIT - LAMINAR_LIMIT)
    return laminar + slope * (reynolds - LAMINAR_LIMIT), slope


@njit_borrowing
def head_and_slope(
    flow: float, bore: float, length: float, roughness: float, kinematic_viscosity: float
) -> tuple[float, float]:
    """One pipe of :func:`friction_head`, for other compiled code.

    Parameters
    ----------
    flow : float
        Flow, either sign, [m³/s]
    bore : float
        Inside diameter, [m]
    length : float
        Length, [m]
    roughness : float
        Absolute roughness, [m]
    kinematic_viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    (float, float)
        Head lost, signed like the flow, [m], and its slope dh/dQ, [s/m²]
    """
    area = 0.25 * math.pi * bore**2
    to_reynolds = bore / (area * kinematic_viscosity)
    size = max(abs(flow), _LEAST_FLOW)
    f, f_slope = _factor(size * to_reynolds, roughness / bore)
    scale = length / (bore * 2.0 * GRAVITY * area**2)
    head = scale * f * size * size
    slope = scale * (2.0 * f * size + f_slope * to_reynolds * size * size)
    return (head if flow >= 0.0 else -head), slope


@njit(cache=True)
def _colebrook_each(reynolds: Floats, relative_roughness: Floats) -> tuple[Floats, Floats]:
    f, slope = np.empty_like(reynolds), np.empty_like(reynolds)
    for i in range(reynolds.size):
        f[i], slope[i] = _colebrook(reynolds[i], relative_roughness[i])
    return f, slope


@njit(cache=True)
def _factor_each(reynolds: Floats, relative_roughness: Floats) -> tuple[Floats, Floats]:
    f, slope = np.empty_like(reynolds), np.empty_like(reynolds)
    for i in range(reynolds.size):
        f[i], slope[i] = _factor(reynolds[i], relative_roughness[i])
    return f, slope


@njit(cache=True)
def _head_each(
    flow: Floats, bore: Floats, length: Floats, roughness: Floats, viscosity: Floats
) -> tuple[Floats, Floats]:
    head, slope = np.empty_like(flow), np.empty_like(flow)
    for i in range(flow.size):
        head[i], slope[i] = head_and_slope(flow[i], bore[i], length[i], roughness[i], viscosity[i])
    return head, slope


def colebrook(reynolds: Floats, relative_roughness: Floats) -> tuple[Floats, Floats]:
    """Friction factor of Colebrook and White, and its slope.

    1/√f = −2 log₁₀(ε/(3.7 D) + 2.51/(Re √f)), solved by Newton's method on 1/√f.

    Parameters
    ----------
    reynolds : array
        Reynolds number, from 4000, [-]
    relative_roughness : array
        Roughness over bore ε/D, 0 to 0.1, [-]

    Returns
    -------
    (array, array)
        Darcy friction factor f [-] and df/dRe [-]

    References
    ----------
    Colebrook, C. F. (1939), J. Inst. Civil Eng. 11, 133–156. Start value: Haaland (1983).
    """
    return over_arrays(_colebrook_each, reynolds, relative_roughness)


def friction_factor(reynolds: Floats, relative_roughness: Floats) -> tuple[Floats, Floats]:
    """Darcy friction factor over all regimes, continuous, and its slope.

    64/Re up to Re 2000, Colebrook–White from Re 4000, a straight line in Re between, so that a
    solver never meets a jump. The true flow between is unsteady; the line is a convention.

    Parameters
    ----------
    reynolds : array
        Reynolds number, above 0, [-]
    relative_roughness : array
        Roughness over bore ε/D, [-]

    Returns
    -------
    (array, array)
        f [-] and df/dRe [-]

    Examples
    --------
    >>> f, slope = friction_factor(np.array([1000.0]), np.array([0.0]))
    >>> float(f[0])
    0.064
    """
    return over_arrays(_factor_each, reynolds, relative_roughness)


def friction_head(
    flow: Floats, bore: Floats, length: Floats, roughness: Floats, kinematic_viscosity: float
) -> tuple[Floats, Floats]:
    """Head lost to friction in straight pipe, and its slope: h = f (L/D) V²/2g.

    Parameters
    ----------
    flow : array
        Flow, either sign, [m³/s]
    bore : array
        Inside diameter, [m]
    length : array
        Length, [m]
    roughness : array
        Absolute roughness, [m]
    kinematic_viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    (array, array)
        Head lost, signed like the flow, [m], and its slope dh/dQ, [s/m²]

    References
    ----------
    Darcy–Weisbach, as in Crane TP-410 (2018), ch. 1.
    """
    return over_arrays(_head_each, flow, bore, length, roughness, kinematic_viscosity)


def hazen_williams_head(flow: float, bore: float, length: float, coefficient: float) -> float:
    """Second opinion on friction in turbulent flow: h = 10.67 L Q^1.852 / (C^1.852 D^4.87).

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    bore : float
        Inside diameter, from 0.025, [m]
    length : float
        Length, [m]
    coefficient : float
        C, 150 for new plastic, 130 for old, [-]

    Returns
    -------
    float
        Head lost, [m]

    References
    ----------
    Hazen–Williams, SI form (memory). Offered since many tables of the trade use it.
    """
    return float(10.67 * length * flow**1.852 / (coefficient**1.852 * bore**4.8704))
