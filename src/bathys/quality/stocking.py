"""What is fed to the fish of each tank, and what they weigh."""

from collections.abc import Mapping
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.species import SPECIES, Species
from bathys.plan.model import Plan

__all__ = ["FEED_SHARE", "TankStock", "feed_of", "stock_of"]

FEED_SHARE = 0.01
"""Feed a day of a mass of fish, where none is told (common practice) [-]."""

_PROTEIN = 0.36  # of feed that no fish are told for (common practice)


@dataclass(frozen=True, slots=True)
class TankStock:
    """The fish of one tank.

    Attributes
    ----------
    vessel : str
        Its id
    mass, mass_at_harvest : float
        Now, and at harvest, [kg]
    feed : float
        A day, [g]
    protein : float
        Of the feed, [-]
    species : Species
        The most demanding of its fish
    is_told : bool
        Whether its fish stand in the plan; else they are shared out by the water of the tanks
    """

    vessel: str
    mass: float
    mass_at_harvest: float
    feed: float
    protein: float
    species: Species
    is_told: bool


def feed_of(found: Evaluation) -> float:
    """Feed a day: that of the fish in the plan, what the brief says, or a hundredth of the fish.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    float
        Feed, [kg/d]
    """
    plan, brief = found.plan, found.plan.brief
    if plan.fish:
        return sum(s.feed for s in plan.fish)
    return brief.feed_a_day if brief.feed_a_day is not None else FEED_SHARE * brief.fish_mass


def stock_of(found: Evaluation, harvest: bool = False) -> Mapping[str, TankStock]:
    """The fish of every tank that has any.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    harvest : bool
        Whether all fish weigh what they will at harvest

    Returns
    -------
    mapping of str to TankStock
        By the tank's id
    """
    plan = found.plan
    if plan.fish:
        return _told(plan, harvest)
    tanks = [v for v in plan.vessels if v.use.keeps_fish]
    feed = feed_of(found)
    water = sum(found.vessels[v.id].volume for v in tanks)
    if feed <= 0.0 or water <= 0.0:
        return {}
    shares = {v.id: found.vessels[v.id].volume / water for v in tanks}
    mass = plan.brief.fish_mass
    return {
        id_: TankStock(
            id_, share * mass, share * mass, 1000.0 * share * feed, _PROTEIN, SPECIES["warm"], False
        )
        for id_, share in shares.items()
    }


def _told(plan: Plan, harvest: bool) -> dict[str, TankStock]:
    rows: dict[str, TankStock] = {}
    for vessel in plan.vessels:
        own = [s for s in plan.fish if s.stands_in == vessel.id]
        if not own:
            continue
        masses = [s.mass_at_harvest if harvest else s.mass for s in own]
        feeds = [1000.0 * s.feed * (m / s.mass) for s, m in zip(own, masses, strict=True)]
        feed = sum(feeds)
        rows[vessel.id] = TankStock(
            vessel.id,
            sum(masses),
            sum(s.mass_at_harvest for s in own),
            feed,
            sum(f * s.protein_share for f, s in zip(feeds, own, strict=True)) / feed,
            min((s.stands for s in own), key=lambda s: -s.least_oxygen),
            True,
        )
    return rows
