"""Media for grow beds and the share of them that water can fill."""

from dataclasses import dataclass

__all__ = ["CARRIERS", "MEDIA", "CarrierKind", "MediaKind", "smallest_grain_of"]


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
    smallest_grain : float
        Of the usual grade for beds (common practice), [m]
    surface : float
        Of all its pieces in a cubic metre, in the middle of published ranges (memory), [1/m]
    """

    name: str
    void_low: float
    void_high: float
    bulk_density: float
    smallest_grain: float
    surface: float


MEDIA: dict[str, MediaKind] = {
    "gravel": MediaKind("gravel", 0.35, 0.45, 1600.0, 0.010, 220.0),
    "expanded_clay": MediaKind("expanded clay", 0.40, 0.55, 450.0, 0.008, 320.0),
    "lava": MediaKind("lava rock", 0.45, 0.55, 850.0, 0.010, 250.0),
    "expanded_slate": MediaKind("expanded slate", 0.45, 0.50, 800.0, 0.005, 320.0),
}
"""Kinds a plan may name."""


@dataclass(frozen=True, slots=True)
class CarrierKind:
    """A kind of carrier for bacteria.

    Attributes
    ----------
    name : str
        Its name
    surface : float
        That is kept from rubbing bare, in a cubic metre, in the middle of published ranges
        (memory), [1/m]
    is_moving : bool
        Whether air tumbles them, so that all of it works
    """

    name: str
    surface: float
    is_moving: bool = False


CARRIERS: dict[str, CarrierKind] = {
    "moving": CarrierKind("carriers that air tumbles", 650.0, is_moving=True),
    "still": CarrierKind("carriers that stand still", 650.0),
    "netting": CarrierKind("netting", 200.0),
    "brushes": CarrierKind("brushes", 200.0),
}
"""Kinds a vessel may hold."""


def smallest_grain_of(kind: str, measured: float | None) -> float:
    """Smallest grain of a medium.

    Parameters
    ----------
    kind : str
        One of :data:`MEDIA`
    measured : float or None
        What the builder measured, [m]

    Returns
    -------
    float
        Its width, that of the usual grade where none was measured, [m]
    """
    return measured if measured is not None else MEDIA[kind].smallest_grain
