"""What is sown and harvested week by week, so that all ages stand in the beds."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel

__all__ = ["Rota", "feed_grown", "rotas_of"]

_GERMINATES = 0.8  # of what is sown, and grows on (common practice) [-]
_WEEK_DAYS = 7.0


@dataclass(frozen=True, slots=True)
class Rota:
    """The rota of one bed or raft.

    Attributes
    ----------
    vessel : Vessel
        Where it grows
    area : float
        Planted, [m²]
    sites, free : float
        Plants that stand there, and places that are free, [-]
    sown, harvested : float
        Seeds and plants a week, [-]
    raised : float
        Seedlings that stand elsewhere meanwhile, [-]
    weeks : float
        From sowing to harvest, [weeks]
    """

    vessel: Vessel
    area: float
    sites: float
    free: float
    sown: float
    harvested: float
    raised: float
    weeks: float


def rotas_of(found: Evaluation) -> tuple[Rota, ...]:
    """A rota of every bed and raft whose crop is planted.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Rota
        In the plan's order; none for what spreads by itself. A fifth more is sown than is planted.
    """
    rows = []
    for vessel in found.plan.vessels:
        if vessel.crop is None or not vessel.crop.grows.sites:
            continue
        crop, whole = vessel.crop.grows, vessel.shape.footprint
        area = vessel.crop.planted * whole
        sites = crop.sites * area
        a_week = sites / crop.weeks_in_bed
        rows.append(
            Rota(
                vessel,
                area,
                sites,
                crop.sites * whole - sites,
                a_week / _GERMINATES,
                a_week,
                a_week * crop.weeks_raised,
                crop.weeks_raised + crop.weeks_in_bed,
            )
        )
    return tuple(rows)


def feed_grown(found: Evaluation) -> float:
    """Dry feed that floats on the plan's own water a week.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    float
        Feed, [kg]
    """
    return 0.001 * sum(
        _WEEK_DAYS * v.crop.grows.dry_yield * v.crop.planted * v.crop.growth * v.shape.footprint
        for v in found.plan.vessels
        if v.crop is not None
    )
