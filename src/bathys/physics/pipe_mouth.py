"""Water that falls into the open mouth of a round pipe."""

import math

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing, over_arrays
from bathys.physics import GRAVITY
from bathys.physics.part_full import critical_table

__all__ = ["entry_head", "mouth_head"]

Floats = NDArray[np.float64]

_DROWNED_MOUTH = 0.72  # critical depth ratio up to which a mouth runs at critical depth
_LEAST_FLOW = 1e-12  # [m³/s]
_TABLE = critical_table()
_ROOT_FLOW = np.sqrt(_TABLE.flow)  # nearly straight against depth, so that little is lost between
_ORIFICE_FLOW = float(np.interp(_DROWNED_MOUTH, _TABLE.depth, _TABLE.flow))
_ORIFICE_ENERGY = float(np.interp(_DROWNED_MOUTH, _TABLE.depth, _TABLE.energy))
_ORIFICE_RATE = (_ORIFICE_ENERGY - 0.5) / _ORIFICE_FLOW**2
_ENERGY = _TABLE.energy


@njit_borrowing
def mouth_head(flow: float, bore: float) -> tuple[float, float]:
    """One mouth of :func:`entry_head`, for other compiled code.

    Parameters
    ----------
    flow : float
        Flow, at or above 0, [m³/s]
    bore : float
        Inside diameter, [m]

    Returns
    -------
    (float, float)
        Level over the invert, [m], and its slope dE/dQ, [s/m²]
    """
    scale = math.sqrt(GRAVITY * bore**5)
    q = max(flow, _LEAST_FLOW) / scale
    if q > _ORIFICE_FLOW:
        return bore * (0.5 + _ORIFICE_RATE * q * q), bore * 2.0 * _ORIFICE_RATE * q / scale
    root = math.sqrt(q)
    i = int(np.searchsorted(_ROOT_FLOW, root)) - 1
    rate = (_ENERGY[i + 1] - _ENERGY[i]) / (_ROOT_FLOW[i + 1] - _ROOT_FLOW[i])
    energy = _ENERGY[i] + rate * (root - _ROOT_FLOW[i])
    return bore * energy, bore * rate / (2.0 * root) / scale


@njit(cache=True)
def _mouth_each(flow: Floats, bore: Floats) -> tuple[Floats, Floats]:
    head, slope = np.empty_like(flow), np.empty_like(flow)
    for i in range(flow.size):
        head[i], slope[i] = mouth_head(flow[i], bore[i])
    return head, slope


def entry_head(flow: Floats | float, bore: Floats | float) -> tuple[Floats, Floats]:
    """Level over a pipe's invert that drives a flow into its open mouth, and its slope.

    Critical depth in the mouth while y_c ≤ 0.72 D; above that an orifice on E − D/2 that meets
    it there.

    Parameters
    ----------
    flow : array
        Flow, at or above 0, [m³/s]
    bore : array
        Inside diameter, [m]

    Returns
    -------
    (array, array)
        Level over the invert, [m], and its slope dE/dQ, [s/m²]

    References
    ----------
    FHWA HDS-5 (2012), inlet control; Q ≤ 0.634 (π/4) D² √(g D) at E = 1.06 D.
    """
    return over_arrays(_mouth_each, flow, bore)
