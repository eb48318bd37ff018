"""Carbonate equilibrium in fresh water: pH by alkalinity and carbon dioxide."""

import math

from bathys.halving import least

__all__ = ["CO2_IN_BALANCE", "constants", "ph_of", "unionised_share"]

CO2_IN_BALANCE = 0.55
"""Carbon dioxide of water in balance with air at about 20 °C [g/m³]."""

_CACO3 = 50.04  # g for one equivalent
_CO2 = 44.01  # g/mol
_LOWEST, _HIGHEST, _HALVINGS = 3.0, 11.0, 45


def constants(temperature: float) -> tuple[float, float, float]:
    """Both dissociation constants of carbonic acid, and that of water.

    Parameters
    ----------
    temperature : float
        Of the water, [°C]

    Returns
    -------
    (float, float, float)
        pK1, pK2 and pKw, [-]

    References
    ----------
    Plummer, L. N. & Busenberg, E. (1982), Geochim. Cosmochim. Acta 46, 1011–1040, as Stumm &
    Morgan's Aquatic Chemistry has them (memory).
    """
    kelvin = temperature + 273.15
    logged = math.log10(kelvin)
    first = (
        356.3094
        + 0.06091964 * kelvin
        - 21834.37 / kelvin
        - 126.8339 * logged
        + 1684915.0 / kelvin**2
    )
    second = (
        107.8871 + 0.03252849 * kelvin - 5151.79 / kelvin - 38.92561 * logged + 563713.9 / kelvin**2
    )
    water = 4470.99 / kelvin - 6.0875 + 0.01706 * kelvin
    return first, second, water


def ph_of(alkalinity: float, carbon_dioxide: float, temperature: float) -> float:
    """pH of fresh water.

    Parameters
    ----------
    alkalinity : float
        As CaCO3, [g/m³]
    carbon_dioxide : float
        Dissolved, [g/m³]
    temperature : float
        Of the water, [°C]

    Returns
    -------
    float
        pH, by alkalinity = HCO3⁻ + 2 CO3²⁻ + OH⁻ − H⁺, [-]
    """
    first, second, water = constants(temperature)
    wanted = max(alkalinity, 0.0) / _CACO3 * 1e-3
    acid = max(carbon_dioxide, 1e-6) / _CO2 * 1e-3

    def reaches(ph: float) -> bool:
        hydrogen: float = 10.0**-ph
        bicarbonate: float = acid * 10.0**-first / hydrogen
        carbonate: float = bicarbonate * 10.0**-second / hydrogen
        hydroxide: float = 10.0**-water / hydrogen
        return bicarbonate + 2.0 * carbonate + hydroxide - hydrogen >= wanted

    return least(reaches, _LOWEST, _HIGHEST, _HALVINGS)


def unionised_share(ph: float, temperature: float) -> float:
    """Share of ammonia nitrogen that is ammonia, which harms fish, and not ammonium.

    Parameters
    ----------
    ph : float
        Of the water, [-]
    temperature : float
        Of the water, [°C]

    Returns
    -------
    float
        Share, [-]

    References
    ----------
    Emerson, K. et al. (1975), J. Fish. Res. Board Can. 32, 2379–2383 (memory).
    """
    ratio: float = 10.0 ** (0.09018 + 2729.92 / (temperature + 273.15) - ph)
    return 1.0 / (1.0 + ratio)
