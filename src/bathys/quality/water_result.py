"""What the water of a plan comes to, as it is told."""

from collections.abc import Mapping
from dataclasses import dataclass

from bathys.plan.vessel import Vessel
from bathys.quality.stocking import TankStock

__all__ = ["AS_IT_IS", "Otherwise", "VesselWater", "WaterResult"]


@dataclass(frozen=True, slots=True)
class VesselWater:
    """The water of one vessel.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    tan, nitrite, nitrate : float
        Nitrogen in each, infinite where it climbs, [g/m³]
    oxygen : float
        Dissolved, [g/m³]
    share : float
        Of what it can hold, [-]
    carbon_dioxide : float
        Dissolved, [g/m³]
    ph : float
        By alkalinity and carbon dioxide, [-]
    ammonia : float
        Un-ionised, as nitrogen, [g/m³]
    """

    vessel: Vessel
    tan: float
    nitrite: float
    nitrate: float
    oxygen: float
    share: float
    carbon_dioxide: float
    ph: float
    ammonia: float


@dataclass(frozen=True)
class WaterResult:
    """What the water of a plan comes to.

    Attributes
    ----------
    stock : mapping of str to TankStock
        Fish by tank
    vessels : dict of str to VesselWater
        By vessel
    made : float
        Ammonia nitrogen a day, that of rotting solids with it, [g]
    nitrified : dict of str to float
        Ammonia nitrogen turned to nitrite a day, by vessel, [g]
    able : dict of str to float
        What each could turn where there is plenty of it, as its oxygen is, [g/d]
    taken_up : dict of str to float
        Nitrate nitrogen that plants take up a day, by vessel, [g]
    gas : float
        Nitrogen that is lost as gas a day, [g]
    nitrate_left : float
        Nitrate nitrogen that nothing takes and climbs, a day, [g]
    oxygen_used : dict of str to float
        A day, by what uses it: fish, bacteria, rot, roots, [g]
    oxygen_brought : dict of str to float
        A day, by what brings it: stones, surfaces, falls, beds, fresh water, [g]
    alkalinity_lost : float
        A day, as CaCO3, below 0 where it grows, [g]
    holds : float
        Oxygen that the water can hold, [g/m³]
    used_in : dict of str to float
        Oxygen used in each vessel a day, [g]
    stones : dict of str to float
        What the stones of each vessel bring for each g/m³ short, [m³/s]
    bubbles_lack : float
        So far below what the water can hold bubbles stop, [g/m³]
    """

    stock: Mapping[str, TankStock]
    vessels: dict[str, VesselWater]
    made: float
    nitrified: dict[str, float]
    able: dict[str, float]
    taken_up: dict[str, float]
    gas: float
    nitrate_left: float
    oxygen_used: dict[str, float]
    oxygen_brought: dict[str, float]
    alkalinity_lost: float
    holds: float
    used_in: dict[str, float]
    stones: dict[str, float]
    bubbles_lack: float

    def brought_by_stones(self, vessel: str) -> float:
        """Oxygen that the stones and venturis of a vessel bring a day [g]."""
        short = self.holds - self.bubbles_lack - self.vessels[vessel].oxygen
        return 86400.0 * self.stones.get(vessel, 0.0) * max(short, 0.0)


@dataclass(frozen=True, slots=True)
class Otherwise:
    """A plan's water with something other than it is.

    Attributes
    ----------
    feed, flow : float
        By what the feed, and all flows, are multiplied, [-]
    harvest : bool
        Whether all fish weigh what they will at harvest
    beds : bool
        Whether bacteria in media beds count
    """

    feed: float = 1.0
    flow: float = 1.0
    harvest: bool = False
    beds: bool = True


AS_IT_IS = Otherwise()
"""Nothing otherwise."""
