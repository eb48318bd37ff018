"""Kinds of crop: what they take up, and how much feed a day each school gives an area of them."""

from dataclasses import dataclass

__all__ = ["CROPS", "FEED_SCHOOLS", "Crop"]


@dataclass(frozen=True, slots=True)
class Crop:
    """A kind of crop.

    Attributes
    ----------
    name : str
        Its name
    demand, low, high : float
        Nitrogen that it takes up at full growth, and the ends of the doubt (memory), [g/m²·d]
    weeks_raised, weeks_in_bed : float
        From sowing to the bed, and from there to harvest (common practice), [weeks]
    sites : float
        Plants on a square metre of bed (common practice), [1/m²]; 0 for one that floats and
        spreads by itself
    least_light, most_light : float
        Light that it wants a day (memory), [mol/m²]
    warmest_roots : float
        Water in which its roots do well (memory), [°C]
    dry_yield : float
        Dry mass that it makes a day as feed for fish (memory), [g/m²·d]; 0 for what fish do not
        get
    """

    name: str
    demand: float
    low: float
    high: float
    weeks_raised: float
    weeks_in_bed: float
    sites: float
    least_light: float
    most_light: float
    warmest_roots: float
    dry_yield: float = 0.0


CROPS: dict[str, Crop] = {
    "leafy": Crop("leafy greens", 0.65, 0.5, 0.8, 2.5, 4.0, 20.0, 12.0, 17.0, 26.0),
    "herbs": Crop("herbs", 0.55, 0.4, 0.7, 3.0, 6.0, 12.0, 12.0, 20.0, 28.0),
    "fruiting": Crop("fruiting plants", 1.15, 0.8, 1.5, 5.0, 16.0, 4.0, 20.0, 30.0, 28.0),
    "duckweed": Crop(
        "duckweed or the like", 0.4, 0.2, 0.6, 0.0, 1.0, 0.0, 10.0, 20.0, 31.0, dry_yield=8.0
    ),
}
"""By what a plan file calls them."""

FEED_SCHOOLS: dict[str, dict[str, tuple[float, float]]] = {
    "FAO Fisheries Technical Paper 589 (2014, memory)": {
        "leafy": (40.0, 50.0),
        "herbs": (40.0, 50.0),
        "fruiting": (50.0, 80.0),
    },
    "published raft systems (memory)": {
        "leafy": (60.0, 100.0),
        "herbs": (60.0, 100.0),
        "fruiting": (60.0, 100.0),
    },
    "common practice": {
        "leafy": (50.0, 50.0),
        "herbs": (50.0, 50.0),
        "fruiting": (100.0, 100.0),
    },
}
"""Feed a day for each square metre of a crop, by school, least and most [g/m²·d]."""
