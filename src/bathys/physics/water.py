"""Density and viscosity of fresh water between 1 and 40 °C at atmospheric pressure.

Salt given for fish health (up to 5 g/kg) is ignored: it moves the density by less than 0.4 %
and the flow through turbulent pipes by far less.
"""

from dataclasses import dataclass

__all__ = ["TEMPERATURE_RANGE", "Water", "density", "dynamic_viscosity", "water_at"]

TEMPERATURE_RANGE = (1.0, 40.0)
"""Temperatures a plan may state [°C]."""


@dataclass(frozen=True, slots=True)
class Water:
    """Water at one temperature.

    Attributes
    ----------
    temperature : float
        Temperature, [°C]
    density : float
        Density, [kg/m³]
    viscosity : float
        Dynamic viscosity, [Pa·s]
    """

    temperature: float
    density: float
    viscosity: float

    @property
    def kinematic_viscosity(self) -> float:
        """Kinematic viscosity ν = μ/ρ [m²/s]."""
        return self.viscosity / self.density


def density(temperature: float) -> float:
    """Density of air-free water at one atmosphere.

    Parameters
    ----------
    temperature : float
        Temperature, 0 to 100 for the fit, [°C]

    Returns
    -------
    float
        Density, [kg/m³]

    References
    ----------
    Kell, G. S. (1975), J. Chem. Eng. Data 20(1), 97–105, eq. 16 (coefficients from memory;
    held against IAPWS-95 in the tests).

    Examples
    --------
    >>> round(density(20.0), 1)
    998.2
    """
    t = temperature
    top = (
        999.83952
        + 16.945176 * t
        - 7.9870401e-3 * t**2
        - 46.170461e-6 * t**3
        + 105.56302e-9 * t**4
        - 280.54253e-12 * t**5
    )
    return top / (1.0 + 16.879850e-3 * t)


def dynamic_viscosity(temperature: float) -> float:
    """Dynamic viscosity of water at 0.1 MPa.

    Parameters
    ----------
    temperature : float
        Temperature, -20 to 110 for the fit, [°C]

    Returns
    -------
    float
        Dynamic viscosity, [Pa·s]

    References
    ----------
    IAPWS SR6-08, Supplementary release on properties of liquid water at 0.1 MPa, eq. 7
    (coefficients from memory; held against the 2008 viscosity release in the tests).

    Examples
    --------
    >>> round(dynamic_viscosity(20.0) * 1e3, 4)
    1.0016
    """
    t = (temperature + 273.15) / 300.0
    viscosity_now: float = 1e-6 * (
        280.68 * t**-1.9 + 511.45 * t**-7.7 + 61.131 * t**-19.6 + 0.45903 * t**-40.0
    )
    return viscosity_now


def water_at(temperature: float) -> Water:
    """Water at a temperature.

    Parameters
    ----------
    temperature : float
        Temperature, [°C]

    Returns
    -------
    Water
        Its density [kg/m³] and viscosity [Pa·s]
    """
    return Water(temperature, density(temperature), dynamic_viscosity(temperature))
