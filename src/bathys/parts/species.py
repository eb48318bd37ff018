"""Generic kinds of fish: what they stand and what they eat. No strain is meant; ask the local law
which may be kept."""

from dataclasses import dataclass

__all__ = ["SPECIES", "Species"]


@dataclass(frozen=True, slots=True)
class Species:
    """A kind of fish.

    Attributes
    ----------
    called : str
        What such fish are called
    coldest, warmest : float
        Water in which it does well, [°C]
    least_oxygen : float
        Below which it suffers, [g/m³]
    most_ammonia : float
        Un-ionised ammonia nitrogen that it stands for long, [g/m³]
    most_nitrite : float
        Nitrite nitrogen that it stands, with some salt in the water, [g/m³]
    eats : float
        Feed a day over its own mass, for fish between half and fully grown, [-]
    stoutness : float
        Fulton's factor: 100 g of fish for each cubic centimetre of its length cubed (memory), [-]
    """

    called: str
    coldest: float
    warmest: float
    least_oxygen: float
    most_ammonia: float
    most_nitrite: float
    eats: float
    stoutness: float


SPECIES: dict[str, Species] = {
    "warm": Species("warm-water fish", 22.0, 30.0, 3.0, 0.05, 1.0, 0.015, 1.8),
    "cool": Species("cool-water fish", 16.0, 26.0, 4.0, 0.05, 1.0, 0.012, 1.5),
    "cold": Species("cold-water fish", 8.0, 17.0, 5.0, 0.02, 0.3, 0.012, 1.1),
    "ornamental": Species("ornamental fish", 16.0, 26.0, 4.0, 0.05, 1.0, 0.01, 2.0),
}
"""By what a plan file calls them. Limits are of common practice; those of ammonia and oxygen within
published ranges (memory)."""
