"""How fast bacteria turn ammonia into nitrite, and nitrite into nitrate, on a surface."""

__all__ = [
    "ALKALINITY_FOR_NITROGEN",
    "ALKALINITY_OF_UPTAKE",
    "AMMONIA",
    "NITRITE",
    "OXYGEN_FOR_NITROGEN",
    "OxidisedBy",
    "warmth",
]

from dataclasses import dataclass

OXYGEN_FOR_NITROGEN = 4.57
"""Oxygen taken for nitrogen nitrified all the way (published, memory) [g/g]."""
ALKALINITY_FOR_NITROGEN = 7.14
"""Alkalinity as CaCO3 used up for nitrogen nitrified (published, memory) [g/g]."""

ALKALINITY_OF_UPTAKE = 3.57
"""Given back as CaCO3 for nitrate nitrogen that plants take up [g/g]."""
_HALF_OXYGEN = 2.0  # oxygen at which films work at half their rate (assumed) [g/m³]


@dataclass(frozen=True, slots=True)
class OxidisedBy:
    """What one kind of bacteria does on a surface.

    Attributes
    ----------
    most : float
        At 20 °C where there is plenty, [g/m²·d]
    half : float
        Concentration at which it does half of that, [g/m³]
    """

    most: float
    half: float

    def rate(self, concentration: float, temperature: float, oxygen: float) -> float:
        """What a square metre does.

        Parameters
        ----------
        concentration : float
            Of what it takes, [g/m³]
        temperature : float
            Of the water, [°C]
        oxygen : float
            In the water, [g/m³]

        Returns
        -------
        float
            Nitrogen, [g/m²·d]
        """
        share = concentration / (self.half + concentration)
        return self.most * warmth(temperature) * share * oxygen / (oxygen + _HALF_OXYGEN)


AMMONIA = OxidisedBy(0.3, 1.0)
"""Published ranges 0.2 to 0.6 (memory)."""
NITRITE = OxidisedBy(0.45, 0.7)
"""Assumed."""


def warmth(temperature: float) -> float:
    """How much faster bacteria work than at 20 °C.

    Parameters
    ----------
    temperature : float
        Of the water, [°C]

    Returns
    -------
    float
        1.07^(T − 20) (memory), [-]
    """
    found: float = 1.07 ** (temperature - 20.0)
    return found
