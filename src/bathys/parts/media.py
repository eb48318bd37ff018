"""Media for grow beds and the share of them that water can fill."""

from dataclasses import dataclass

__all__ = ["MEDIA", "MediaKind"]


@dataclass(frozen=True, slots=True)
class MediaKind:
    """A kind of growing medium.

    Attributes
    ----------
    name : str
        Its name
    void_low, void_high : float
        Usual range of the void fraction (common practice), [-]
    bulk_density : float
        Mass of the dry medium over its heap volume (common practice), [kg/m³]
    """

    name: str
    void_low: float
    void_high: float
    bulk_density: float


MEDIA: dict[str, MediaKind] = {
    "gravel": MediaKind("gravel", 0.35, 0.45, 1600.0),
    "expanded_clay": MediaKind("expanded clay", 0.40, 0.55, 450.0),
    "lava": MediaKind("lava rock", 0.45, 0.55, 850.0),
    "expanded_slate": MediaKind("expanded slate", 0.45, 0.50, 800.0),
}
"""Kinds a plan may name."""
