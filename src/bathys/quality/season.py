"""Fish growing through a season: what they weigh, what they eat, and when the water has enough."""

import math
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.quality.feeding import feed_on_area
from bathys.quality.reserve import reserve_of
from bathys.quality.stocking import stock_of
from bathys.quality.water import water_of
from bathys.quality.water_result import Otherwise

__all__ = ["Season", "SeasonWater", "season_of", "season_water"]

_FEED_FOR_MASS = 1.6  # feed for a kilogram more of fish (common practice) [-]
_DAYS = 365
_MANY = 1e3  # g/m³ that are as good as without end
_BEST = 0.5  # where between coldest and warmest fish eat most (assumed) [-]
_LEAST_EATEN = 0.3  # of their feed at the ends of that range (assumed) [-]


@dataclass(frozen=True)
class Season:
    """A year of growth, or until all are at their weight.

    Attributes
    ----------
    days : tuple of float
        From now, [d]
    mass : tuple of float
        Of all fish, [kg]
    feed : tuple of float
        A day, [g]
    enough_for_plants : float or None
        Day from which on plants get what the least school asks for; none if never
    too_much : float or None
        Day from which on the water meets a limit of the fish; none if never
    harvest : dict of str to float or None
        Day on which each cohort is at its weight; none if not within the year
    """

    days: tuple[float, ...]
    mass: tuple[float, ...]
    feed: tuple[float, ...]
    enough_for_plants: float | None
    too_much: float | None
    harvest: dict[str, float | None]


@dataclass(frozen=True)
class SeasonWater:
    """The worst of a plan's fish tanks on some days of the season.

    Attributes
    ----------
    days : tuple of float
        From now, [d]
    oxygen, tan, nitrite : tuple of float
        Lowest oxygen, and most of each as nitrogen, [g/m³]
    """

    days: tuple[float, ...]
    oxygen: tuple[float, ...]
    tan: tuple[float, ...]
    nitrite: tuple[float, ...]


def season_water(found: Evaluation, season: Season, points: int = 13) -> SeasonWater:
    """What the water comes to as the feed grows, each time as if it stayed so.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    season : Season
        Its fish growing
    points : int
        How many days are looked at, 2 or more

    Returns
    -------
    SeasonWater
        A day on which something climbs without end is left out with those after it
    """
    now = sum(s.feed for s in stock_of(found).values())
    last, rows = len(season.days) - 1, []
    for day in sorted({round(last * k / (points - 1)) for k in range(points)}):
        water = water_of(found, Otherwise(feed=season.feed[day] / now))
        tanks = [water.vessels[id_] for id_ in water.stock] if water is not None else []
        tan, nitrite = max(t.tan for t in tanks), max(t.nitrite for t in tanks)
        if max(tan, nitrite) > _MANY:
            break
        rows.append((season.days[day], min(t.oxygen for t in tanks), tan, nitrite))
    days, oxygen, tans, nitrites = zip(*rows, strict=True) if rows else ((), (), (), ())
    return SeasonWater(days, oxygen, tans, nitrites)


def season_of(found: Evaluation, least_on_area: float = 40.0) -> Season | None:
    """Grow the fish of a plan day by day, at the temperature of the site.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    least_on_area : float
        Feed a day that plants want on each square metre, [g]

    Returns
    -------
    Season or None
        None for a plan whose fish are not told

    Notes
    -----
    A fish eats its share of its own mass, less where the water is near the ends of what it stands,
    and grows by the feed over 1.6. It stops at its weight at harvest. What the water can take is
    that of the plan as it stands.
    """
    plan, warm = found.plan, found.water.temperature
    water, reserve = water_of(found), reserve_of(found)
    if not plan.fish or water is None or reserve is None:
        return None
    given = feed_on_area(found, water)
    wanted = least_on_area * given.area if given is not None else math.inf
    masses = {s.id: s.mass for s in plan.fish}
    shares = {
        s.id: s.feed / s.mass * _appetite(warm, s.stands.coldest, s.stands.warmest)
        for s in plan.fish
    }
    ends = {s.id: s.mass_at_harvest for s in plan.fish}
    days, mass, feed = [], [], []
    harvest: dict[str, float | None] = dict.fromkeys(masses)
    for day in range(_DAYS + 1):
        eaten = {id_: shares[id_] * m for id_, m in masses.items()}
        days.append(float(day))
        mass.append(sum(masses.values()))
        feed.append(1000.0 * sum(eaten.values()))
        for id_, m in masses.items():
            if harvest[id_] is None and m >= ends[id_] - 1e-12:
                harvest[id_] = float(day)
        if all(d is not None for d in harvest.values()):
            break
        masses = {
            id_: min(m + eaten[id_] / _FEED_FOR_MASS, max(ends[id_], m))
            for id_, m in masses.items()
        }
    enough = next((d for d, q in zip(days, feed, strict=True) if q >= wanted), None)
    over = next((d for d, q in zip(days, feed, strict=True) if q > reserve.feed), None)
    return Season(tuple(days), tuple(mass), tuple(feed), enough, over, harvest)


def _appetite(warm: float, coldest: float, warmest: float) -> float:
    """Share of their feed that fish eat at a temperature [-]: all of it in the middle of what they
    stand, falling straight to the ends and to nothing beyond as far again."""
    half = _BEST * (warmest - coldest)
    off = abs(warm - (coldest + half)) / half
    if off <= 1.0:
        return 1.0 - (1.0 - _LEAST_EATEN) * off**2
    return max(_LEAST_EATEN * (2.0 - off), 0.0)
