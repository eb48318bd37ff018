"""Oxygen: what water can hold, and what bubbles, falls and open surfaces bring."""

import math

__all__ = ["IN_FISH_WATER", "bubble_transfer", "fall_share", "saturation"]

IN_FISH_WATER = 0.8
"""Transfer from bubbles in fish water over that in clean water (memory) [-]."""


_OXYGEN_IN_AIR = 276.5  # of free air at 20 °C [g/m³]
_STANDARD = 9.09  # saturation at 20 °C, that of standard transfer [g/m³]


def saturation(temperature: float, altitude: float = 0.0, salt: float = 0.0) -> float:
    """Oxygen that water holds in balance with moist air.

    Parameters
    ----------
    temperature : float
        Of the water, 0 to 40, [°C]
    altitude : float
        Over the sea, [m]
    salt : float
        In the water, [g/kg]

    Returns
    -------
    float
        Concentration, [g/m³]

    References
    ----------
    Benson, B. B. & Krause, D. (1984), Limnol. Oceanogr. 29, 620–632, as Standard Methods 4500-O
    has it, with its correction for pressure and vapour (coefficients from memory; held against its
    table in the tests).
    """
    kelvin = temperature + 273.15
    at_sea = math.exp(
        -139.34411
        + 1.575701e5 / kelvin
        - 6.642308e7 / kelvin**2
        + 1.243800e10 / kelvin**3
        - 8.621949e11 / kelvin**4
        - salt * (1.7674e-2 - 10.754 / kelvin + 2140.7 / kelvin**2)
    )
    pressure: float = (1.0 - 2.25577e-5 * altitude) ** 5.25588
    vapour = math.exp(11.8571 - 3840.70 / kelvin - 216961.0 / kelvin**2)
    theta = 0.000975 - 1.426e-5 * temperature + 6.436e-8 * temperature**2
    high = (1.0 - vapour / pressure) * (1.0 - theta * pressure)
    return at_sea * pressure * high / ((1.0 - vapour) * (1.0 - theta))


def bubble_transfer(air: float, efficiency: float, temperature: float, alpha: float) -> float:
    """What bubbles bring for each g/m³ that water is short of what it can hold.

    Parameters
    ----------
    air : float
        Free air, [m³/s]
    efficiency : float
        Share of its oxygen that goes over in clean water without any, [-]
    temperature : float
        Of the water, [°C]
    alpha : float
        Transfer in this water over that in clean water, [-]

    Returns
    -------
    float
        Transfer, [m³/s]

    References
    ----------
    Standard transfer and field rate as in aeration practice (memory):
    SOTR α (β Cs − C)/9.09 × 1.024^(T − 20).
    """
    standard = air * _OXYGEN_IN_AIR * efficiency
    warmth: float = 1.024 ** (temperature - 20.0)
    return standard * alpha * warmth / _STANDARD


def fall_share(height: float, temperature: float, quality: float, shape: float) -> float:
    """Share of what water is short of that a fall into a vessel makes up.

    Parameters
    ----------
    height : float
        Of the fall, [m]
    temperature : float
        Of the water, [°C]
    quality : float
        1.0 for dirty to 1.8 for clean water, [-]
    shape : float
        0.6 for a round-crested fall to 1.0 for one that breaks up, [-]

    Returns
    -------
    float
        Share, 0 to 1, [-]

    References
    ----------
    Water Research Laboratory (1973), Notes on Water Pollution 61 (memory):
    r = 1 + 0.38 a b h (1 − 0.11 h)(1 + 0.046 T), and the share is 1 − 1/r.
    """
    if height <= 0.0:
        return 0.0
    high = min(height, 4.0)
    ratio = 1.0 + 0.38 * quality * shape * high * (1.0 - 0.11 * high) * (1.0 + 0.046 * temperature)
    return 1.0 - 1.0 / ratio
