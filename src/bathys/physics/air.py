"""Air on its way from a pump to a stone: the pump's curve, the line, the water over the stone."""

import math

from bathys.physics import GRAVITY

__all__ = ["line_loss", "pump_pressure", "water_pressure"]

_DENSITY = 1.2  # of air [kg/m³]
_VISCOSITY = 1.8e-5  # of air [Pa s]
_LAMINAR = 2000.0
_TURBULENT = 4000.0


def pump_pressure(flow: float, most_flow: float, most_pressure: float, exponent: float) -> float:
    """Pressure that an air pump gives at a flow.

    Parameters
    ----------
    flow : float
        Free air, [m³/s]
    most_flow, most_pressure : float
        At no pressure, [m³/s], and at no flow, [Pa]
    exponent : float
        Of the curve: 1 to 1.5 for membrane and piston pumps (assumed), [-]

    Returns
    -------
    float
        p0 (1 − (q/q0)^n), below 0 for more than it gives, [Pa]
    """
    ratio: float = (flow / most_flow) ** exponent
    return most_pressure * (1.0 - ratio)


def line_loss(flow: float, bore: float, length: float) -> float:
    """Pressure lost in an air line.

    Parameters
    ----------
    flow : float
        Free air, [m³/s]
    bore, length : float
        Of the line, [m]

    Returns
    -------
    float
        Darcy–Weisbach, laminar 64/Re, turbulent 0.316 Re^−0.25 (Blasius 1913), straight between,
        [Pa]
    """
    if flow <= 0.0 or length <= 0.0:
        return 0.0
    speed = flow / (0.25 * math.pi * bore**2)
    reynolds = _DENSITY * speed * bore / _VISCOSITY
    laminar, rough = 64.0 / reynolds, 0.316 * reynolds**-0.25
    if reynolds <= _LAMINAR:
        factor = laminar
    elif reynolds >= _TURBULENT:
        factor = rough
    else:
        share = (reynolds - _LAMINAR) / (_TURBULENT - _LAMINAR)
        factor = (1.0 - share) * 64.0 / _LAMINAR + share * 0.316 * _TURBULENT**-0.25
    return factor * length / bore * 0.5 * _DENSITY * speed**2


def water_pressure(depth: float, density: float) -> float:
    """Pressure of the water over a stone.

    Parameters
    ----------
    depth : float
        Of water over it, [m]
    density : float
        Of the water, [kg/m³]

    Returns
    -------
    float
        Pressure, [Pa]
    """
    return density * GRAVITY * max(depth, 0.0)
