"""Heat: what the water loses to its surroundings, the heater for it, how fast it cools without."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation

__all__ = ["OPEN_LOSS", "WALLS", "Heat", "heat_of"]

WALLS = {"bare": 8.0, "insulated": 1.0, "dug_in": 2.0}
"""Heat that passes a wall, by how it is built: bare plastic 6 to 10, insulated, dug in (memory)
[W/m²K]."""

OPEN_LOSS = 15.0
"""Heat that leaves open water besides evaporation (assumed) [W/m²K]."""
_LATENT = 2.45e6  # of water that evaporates [J/kg]
_CAPACITY = 4186.0  # of water [J/kg K]
_DENSITY = 998.0
_DAY = 86400.0
_SPARE = 1.25  # of a heater over what it must give (common practice)
_KWH = 3.6e6


@dataclass(frozen=True, slots=True)
class Heat:
    """What keeps the water warm.

    Attributes
    ----------
    walls, surface, evaporation, fresh : float
        Lost through walls and floors, from open water, by evaporation, and to fresh water, [W]
    pumps : float
        Given by pumps that stand in it, [W]
    wanted : float
        That a heater must give, [W]
    heater : float
        To buy, with something to spare, [W]
    cooling : float
        How fast it cools without, at first, [K/s]
    energy : float
        A day, [kWh]
    """

    walls: float
    surface: float
    evaporation: float
    fresh: float
    pumps: float
    wanted: float
    heater: float
    cooling: float
    energy: float

    @property
    def hours(self) -> float:
        """How long a heater of the size to buy runs a day [h]; 0 if none is wanted."""
        return 24.0 * self.wanted / self.heater if self.heater > 0.0 else 0.0

    @property
    def lost(self) -> float:
        """In all [W]."""
        return self.walls + self.surface + self.evaporation + self.fresh


def heat_of(found: Evaluation) -> Heat:
    """Watts to hold the water at the temperature that the site says.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Heat
        Of all its water together; nothing to heat where the air is as warm
    """
    plan, site = found.plan, found.plan.site
    over = site.water_temperature - site.air_temperature
    walls = surface = evaporates = 0.0
    for vessel in plan.vessels:
        result = found.vessels[vessel.id]
        depth = max(result.levels.high - vessel.floor_height, 0.0)
        wet = vessel.shape.perimeter * depth + vessel.shape.footprint
        walls += WALLS[vessel.walls] * wet * over
        bare = vessel.shape.footprint * (1.0 - vessel.covered)
        if vessel.media is None and not vessel.use.has_rafts:
            surface += OPEN_LOSS * bare * over
            evaporates += bare * site.dries_in(site.air_temperature, site.water_temperature)
    evaporation = evaporates * _DENSITY / _DAY * _LATENT
    fresh = (
        sum(m.volume / m.every for m in plan.moves if m.source is None)
        * _DENSITY
        * _CAPACITY
        * max(over, 0.0)
    )
    pumps = sum(d.power * d.share for d in found.duties.values())
    lost = walls + surface + evaporation + fresh
    wanted = max(lost - pumps, 0.0)
    water = sum(v.volume for v in found.vessels.values()) * _DENSITY * _CAPACITY
    return Heat(
        walls,
        surface,
        evaporation,
        fresh,
        pumps,
        wanted,
        _SPARE * wanted,
        max(lost - pumps, 0.0) / max(water, 1e-9),
        wanted * _DAY / _KWH,
    )
