"""Water vapour, and how fast open water dries."""

import math

__all__ = ["open_water_dries", "saturated_vapour"]

_LATENT = 2.45e6  # of water that evaporates [J/kg]


def saturated_vapour(temperature: float) -> float:
    """Pressure of water vapour over water, saturated.

    Parameters
    ----------
    temperature : float
        Of the water, [°C]

    Returns
    -------
    float
        Pressure, [Pa]

    Notes
    -----
    Magnus form with the coefficients of Alduchov and Eskridge 1996 (memory), within 0.4 % from -40
    to 50 °C.
    """
    return 610.94 * math.exp(17.625 * temperature / (243.04 + temperature))


def open_water_dries(vapour_short: float, wind: float) -> float:
    """Mass that leaves each square metre of open water.

    Parameters
    ----------
    vapour_short : float
        By how much the vapour in the air lacks what is saturated at the water's surface, [Pa]
    wind : float
        Just over the water, [m/s]

    Returns
    -------
    float
        Rate, [kg/m²s]; 0 where the air is damper than the surface

    Notes
    -----
    w = (0.089 + 0.0782 v) Δp / L for pools (ASHRAE Handbook, HVAC Applications, after Carrier;
    memory), with L the heat of evaporation.
    """
    return max((0.089 + 0.0782 * wind) * vapour_short / _LATENT, 0.0)
