"""Light on what grows: by the sun through what stands over it, and by lamps."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.climate import SHELTERS, SUN
from bathys.plan.vessel import Vessel

__all__ = ["MOL_OF_SUN", "Light", "lights_of"]

MOL_OF_SUN = 2.04
"""Light for plants in a megajoule of sunlight (McCree 1972, memory) [mol/MJ]."""

_MEGAJOULES = 3.6  # of a kilowatt-hour
_REACHES = 0.8  # of a lamp's light, the leaves (assumed) [-]
_MICRO = 1e-6
_USUAL = 2.2  # of a usual LED lamp [µmol/J]


@dataclass(frozen=True, slots=True)
class Light:
    """Light on one bed or raft.

    Attributes
    ----------
    vessel : Vessel
        Where the crop grows
    sun, lamps : float
        Light a day from each, [mol/m²]
    least, most : float
        That its crop wants, [mol/m²]
    """

    vessel: Vessel
    sun: float
    lamps: float
    least: float
    most: float

    @property
    def lamp_energy(self) -> float:
        """Electrical energy a day that usual LED lamps would take for what lacks [kWh]."""
        lacks = max(self.least - self.sun - self.lamps, 0.0) * self.vessel.shape.footprint
        return lacks / (_USUAL * _MICRO * _REACHES) / (_MEGAJOULES * 1e6)


def lights_of(found: Evaluation) -> tuple[Light, ...]:
    """Light on every bed and raft with a crop, on a bright day.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Light
        In the plan's order
    """
    plan, site = found.plan, found.plan.site
    sun = SUN[site.sun] * SHELTERS[site.shelter] * _MEGAJOULES * MOL_OF_SUN
    rows = []
    for vessel in plan.vessels:
        if vessel.crop is None:
            continue
        lamps = sum(
            a.light * a.spell[1] * _MICRO * _REACHES
            for a in plan.appliances
            if a.stands_in == vessel.id
        )
        crop = vessel.crop.grows
        rows.append(
            Light(
                vessel,
                sun,
                lamps / vessel.shape.footprint,
                crop.least_light,
                crop.most_light,
            )
        )
    return tuple(rows)
