"""How good the water of each vessel is by one constituent, from 0 to 1, to shade it by."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.species import SPECIES
from bathys.quality.solids import solids_of
from bathys.quality.water_result import WaterResult

__all__ = ["SHADES", "Shade", "shades_of"]

_MUCH_SOLIDS = 25.0  # in the water, from which on gills suffer (common practice) [g/m³]


@dataclass(frozen=True)
class Shade:
    """One constituent over all vessels.

    Attributes
    ----------
    key, name : str
        What it goes by in addresses, and its name
    values : dict of str to float
        By vessel, [g/m³]
    goodness : dict of str to float
        By vessel: 1 as good as can be, 0 at its limit or over, [-]
    """

    key: str
    name: str
    values: dict[str, float]
    goodness: dict[str, float]


SHADES = (
    ("oxygen", "oxygen"),
    ("ammonia", "harmful ammonia"),
    ("nitrite", "nitrite"),
    ("solids", "solids"),
)
"""Key and name of each, in the order in which they are told."""


def _shade(key: str, values: dict[str, float], goodness: dict[str, float]) -> Shade:
    return Shade(key, dict(SHADES)[key], values, goodness)


def _within(value: float, most: float) -> float:
    return min(max(1.0 - value / most, 0.0), 1.0)


def shades_of(found: Evaluation, water: WaterResult) -> tuple[Shade, ...]:
    """Oxygen, harmful ammonia, nitrite and solids.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    tuple of Shade
        By the limits of the most demanding fish of the plan
    """
    fish = [s.species for s in water.stock.values()] or [SPECIES["warm"]]
    least = max(f.least_oxygen for f in fish)
    ammonia = min(f.most_ammonia for f in fish)
    nitrite = min(f.most_nitrite for f in fish)
    at = water.vessels
    solids = solids_of(found)
    suspended = {id_: min(solids.in_water(id_), 1e4) for id_ in at}
    return (
        _shade(
            "oxygen",
            {id_: v.oxygen for id_, v in at.items()},
            {
                id_: min(max((v.oxygen - least) / max(water.holds - least, 1e-9), 0.0), 1.0)
                for id_, v in at.items()
            },
        ),
        _shade(
            "ammonia",
            {id_: min(v.ammonia, 1e4) for id_, v in at.items()},
            {id_: _within(v.ammonia, ammonia) for id_, v in at.items()},
        ),
        _shade(
            "nitrite",
            {id_: min(v.nitrite, 1e4) for id_, v in at.items()},
            {id_: _within(v.nitrite, nitrite) for id_, v in at.items()},
        ),
        _shade(
            "solids",
            suspended,
            {id_: _within(q, _MUCH_SOLIDS) for id_, q in suspended.items()},
        ),
    )
