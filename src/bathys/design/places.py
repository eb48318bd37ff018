"""Where a layout stands, and what that says of its site."""

from dataclasses import dataclass
from typing import Any

__all__ = ["PLACES", "Place"]


@dataclass(frozen=True, slots=True)
class Place:
    """A kind of place.

    Attributes
    ----------
    name : str
        In words
    site : dict of str to object
        What it says of a plan's site, as plan data
    """

    name: str
    site: dict[str, Any]


PLACES: dict[str, Place] = {
    "yard": Place("in the open", {}),
    "greenhouse": Place("in a greenhouse", {"shelter": "greenhouse"}),
    "netting": Place("under netting", {"shelter": "netting"}),
    "indoors": Place("indoors", {"sun": "indoors", "wind": "still"}),
    "roof": Place("on a roof or a deck", {"wind": "windy"}),
}
"""By their keys in a brief."""
