"""The hottest day: how warm the water gets in the sun, and what keeps it cooler."""

import math
from dataclasses import dataclass, replace
from threading import Lock

from cachetools import LRUCache, cached

from bathys.evaluation import Evaluation
from bathys.parts.climate import DAY_UNDER_PEAK, HUMIDITY, SHELTERS, SUN
from bathys.physics.evaporation import open_water_dries, saturated_vapour
from bathys.plan.vessel import Vessel
from bathys.quality.heat import OPEN_LOSS, WALLS

__all__ = ["HotDay", "Measure", "hot_day", "hot_water"]

_DAY, _STEP, _DAYS = 86400.0, 900.0, 4  # after the mean of the day, from which it starts
_CAPACITY, _DENSITY, _LATENT = 4186.0, 998.0, 2.45e6
_RISES, _LIGHT = 6.0 * 3600.0, 12.0 * 3600.0  # of the sun, and how long it shines [s]
_HOTTEST_AT = 15.0 * 3600.0
_OPEN_TAKES = 0.9  # of the sun, by open water (memory) [-]
_PLANTED_TAKES = 0.3  # by a bed or raft under leaves (assumed) [-]
_MEDIA_TAKES = 0.6  # by media with nothing on them (assumed) [-]
_LID_TAKES = 0.2  # by the water under a lid (assumed) [-]
_WALL_LIT = 0.5  # of the sun on level ground, on the width of a wall (assumed) [-]
_WALLS_TAKE = {"bare": 0.7, "insulated": 0.1, "dug_in": 0.0}  # of that (assumed) [-]
_PAINTED = 0.25
_NETTING = SHELTERS["netting"]
_JOULES = 3.6e6
_UNDER, _FAR = 60.0, 500.0  # water from air: more than any night or sun makes [K]
_FELT = 0.1  # a measure that changes less is left out [K]


@dataclass(frozen=True, slots=True)
class Measure:
    """What may be done against the sun.

    Attributes
    ----------
    name : str
        What
    hottest : float
        Water of such a day with it, [°C]
    """

    name: str
    hottest: float


@dataclass(frozen=True, slots=True)
class HotDay:
    """A hot day that comes again and again.

    Attributes
    ----------
    hottest, coolest : float
        Water in the afternoon and in the morning, [°C]
    given_back : float
        Heat that the water gives its surroundings while the sun is down, [kWh]
    measures : tuple of Measure
        What would keep it cooler, the best first
    """

    hottest: float
    coolest: float
    given_back: float
    measures: tuple[Measure, ...]


@dataclass(frozen=True, slots=True)
class _Sums:
    """All vessels together: heat held [J/K], lost through walls [W/K], open water [m²], sun taken
    from above and by walls [m²]."""

    holds: float
    walls: float
    open: float
    above: float
    aside: float


def _same(found: Evaluation) -> int:
    return id(found)


@cached(LRUCache(maxsize=8), key=_same, lock=Lock())
def _kept(found: Evaluation) -> list[tuple[Evaluation, tuple[float, float, float]]]:
    """Kept with its evaluation, so that no other can have its identity."""
    return [(found, _followed(found, _sums(found)))]


def hot_water(found: Evaluation) -> tuple[float, float, float] | None:
    """Hottest and coolest water of a hot day, as the plan stands.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    (float, float, float) or None
        Hottest and coolest water, [°C], and heat given back in the dark, [kWh]; none where the
        hottest air is not told. Kept, since rules and pages all ask
    """
    if found.plan.site.hot_air is None or not any(v.volume for v in found.vessels.values()):
        return None
    return _kept(found)[0][1]


def hot_day(found: Evaluation) -> HotDay | None:
    """How warm all the water together gets on the hottest day of the site.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    HotDay or None
        None where the hottest air is not told

    Notes
    -----
    One body of water with no heater: C dT/dt = sun taken - walls U A (T - air) - open water
    15 W/m²K (T - air) - evaporation × 2.45 MJ/kg. What is planted or covered loses heat from its
    top as a bare wall does. The air swings by 5 K about its mean, and the sun is half a sine from 6
    to 18 h, until one day is like the day before. Evaporation follows the water's temperature.
    Estimates within 2 K at best.
    """
    water = hot_water(found)
    if water is None:
        return None
    now, (hottest, coolest, back) = _sums(found), water
    tries = {
        "shade netting over all of it": _followed(found, now, sun=_NETTING)[0],
        "lids on all open water": _followed(found, _sums(found, lids=True))[0],
        "bare walls painted white": _followed(
            found, replace(now, aside=now.aside * _PAINTED / _WALLS_TAKE["bare"])
        )[0],
        "bare walls wrapped": _followed(found, _sums(found, walls="insulated"))[0],
        "bare vessels dug in": _followed(found, _sums(found, walls="dug_in"))[0],
    }
    measures = sorted(tries.items(), key=lambda row: row[1])
    return HotDay(
        hottest,
        coolest,
        back,
        tuple(Measure(name, high) for name, high in measures if high < hottest - _FELT),
    )


def _sums(found: Evaluation, lids: bool = False, walls: str = "") -> _Sums:
    holds = through = is_open = above = aside = 0.0
    for result in found.vessels.values():
        vessel = result.vessel
        depth = max(result.levels.high - vessel.floor_height, 0.0)
        built = walls if walls and vessel.walls == "bare" else vessel.walls
        holds += result.volume * _DENSITY * _CAPACITY
        wet = vessel.shape.perimeter * depth + vessel.shape.footprint
        through += WALLS[built] * wet
        bare, taken = _top(vessel, lids)
        through += WALLS["bare"] * (vessel.shape.footprint - bare)  # leaves, media and lids
        is_open += bare
        above += taken
        aside += _WALLS_TAKE[built] * _WALL_LIT * vessel.shape.across * depth
    return _Sums(holds, through, is_open, above, aside)


def _top(vessel: Vessel, lids: bool) -> tuple[float, float]:
    """Open water of a vessel, and area that takes up all the sun that falls on it [m²]."""
    area = vessel.shape.footprint
    if vessel.media is not None or vessel.use.has_rafts:
        is_planted = vessel.crop is not None or vessel.use.has_rafts
        return 0.0, area * (_PLANTED_TAKES if is_planted else _MEDIA_TAKES)
    covered = 1.0 if lids else vessel.covered
    bare = area * (1.0 - covered)
    return bare, _OPEN_TAKES * bare + _LID_TAKES * area * covered


def _followed(found: Evaluation, sums: _Sums, sun: float = 1.0) -> tuple[float, float, float]:
    """Hottest and coolest water of the last day [°C], and heat given back in its dark hours
    [kWh]."""
    site = found.plan.site
    mean = float(site.hot_air or 0.0) - DAY_UNDER_PEAK
    passes = SHELTERS[site.shelter] * sun
    peak = SUN[site.sun] * _JOULES * math.pi / (2.0 * _LIGHT) * passes
    vapour = HUMIDITY[site.humidity] * saturated_vapour(mean)

    def gains(water: float, air: float, shines: float) -> float:

        dries = open_water_dries(saturated_vapour(water) - vapour, site.wind_speed)
        lost = (sums.walls + OPEN_LOSS * sums.open) * (water - air) + sums.open * dries * _LATENT
        return shines * (sums.above + sums.aside) - lost

    by_day = SUN[site.sun] * _JOULES / _DAY * passes
    from scipy.optimize import brentq  # noqa: PLC0415 - slow to load

    water = float(brentq(lambda t: gains(t, mean, by_day), mean - _UNDER, mean + _FAR, xtol=0.01))
    highs, back = list[float](), 0.0
    for number in range(int(_DAYS * _DAY / _STEP)):
        time = (number * _STEP) % _DAY
        if time == 0.0:
            highs, back = [], 0.0
        air = mean + DAY_UNDER_PEAK * math.cos(2.0 * math.pi * (time - _HOTTEST_AT) / _DAY)
        lit = (time - _RISES) / _LIGHT
        shines = peak * math.sin(math.pi * lit) if 0.0 < lit < 1.0 else 0.0
        gained = gains(water, air, shines)
        if shines == 0.0:
            back += max(-gained, 0.0) * _STEP / _JOULES
        # Little water moves far in a step: no further than to where it would stand still.
        water += max(min(gained * _STEP / sums.holds, 5.0), -5.0)
        highs.append(water)
    return max(highs), min(highs), back
