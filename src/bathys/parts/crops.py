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
    """

    name: str
    demand: float
    low: float
    high: float


CROPS: dict[str, Crop] = {
    "leafy": Crop("leafy greens", 0.65, 0.5, 0.8),
    "herbs": Crop("herbs", 0.55, 0.4, 0.7),
    "fruiting": Crop("fruiting plants", 1.15, 0.8, 1.5),
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
