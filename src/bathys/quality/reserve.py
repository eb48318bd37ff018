"""How much more could be fed, and what the water comes to when something stands still."""

from collections.abc import Callable
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.halving import greatest, least
from bathys.physics.carbonate import CO2_IN_BALANCE, ph_of
from bathys.quality.water import TAN_OF_PROTEIN, water_of
from bathys.quality.water_result import Otherwise, WaterResult

__all__ = [
    "Reserve",
    "first_limit",
    "idle_adds",
    "least_flows",
    "meal_adds",
    "meal_ph",
    "reserve_of",
]

_DOUBLE, _BREATHES = 2.0, 1.4  # feed, and breath after a meal over its mean (assumed)
_LEAST_FLOW, _MOST_FLOW = 0.01, 10.0  # times the present flows
_SOON = 0.6  # of what a meal makes, within six hours (assumed) [-]
_MOST, _HALVINGS = 8.0, 14  # times the feed, and how finely that is looked for


@dataclass(frozen=True, slots=True)
class Reserve:
    """What a plan's water could yet take.

    Attributes
    ----------
    times : float
        Feed at which the first limit is met, over the feed now, [-]
    feed : float
        That feed a day, [g]
    limit : str
        What it is: ``ammonia``, ``nitrite``, ``oxygen``; empty if none is met
    vessel : str
        The tank that meets it
    """

    times: float
    feed: float
    limit: str
    vessel: str


def first_limit(water: WaterResult) -> tuple[str, str]:
    """The limit of its fish that some tank does not hold.

    Parameters
    ----------
    water : WaterResult
        What the water comes to

    Returns
    -------
    (str, str)
        What it is, and the tank; empty if all are held
    """
    for id_, stock in water.stock.items():
        at, fish = water.vessels[id_], stock.species
        if at.oxygen < fish.least_oxygen:
            return "oxygen", id_
        if at.ammonia > fish.most_ammonia:
            return "ammonia", id_
        if at.nitrite > fish.most_nitrite:
            return "nitrite", id_
    return "", ""


def reserve_of(found: Evaluation, is_wanted: Callable[[], bool] = lambda: True) -> Reserve | None:
    """Feed at which a tank first meets a limit of its fish.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    is_wanted : callable
        Asked now and then whether to go on

    Returns
    -------
    Reserve or None
        None for a plan that nothing is fed in
    """
    now = water_of(found)
    if now is None:
        return None

    def holds(times: float) -> bool:
        water = water_of(found, Otherwise(feed=times)) if is_wanted() else None
        return water is not None and not first_limit(water)[0]

    times = _MOST if holds(_MOST) else greatest(holds, 0.0, _MOST, _HALVINGS)
    feed = sum(s.feed for s in now.stock.values())
    over = water_of(found, Otherwise(feed=1.001 * times + 1e-3))
    limit, vessel = first_limit(over) if over is not None and times < _MOST else ("", "")
    return Reserve(times, times * feed, limit, vessel)


def least_flows(found: Evaluation) -> dict[str, float]:
    """Share of the present flows that each limit of the fish asks for.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to float
        By ``oxygen`` and ``ammonia``, [-]; left out where no flow up to ten times is enough, and
        0 where it would do without any. Falls and beds are taken to work as they do now
    """
    rows: dict[str, float] = {}
    for limit in ("oxygen", "ammonia"):

        def holds(share: float, limit: str = limit) -> bool:
            water = water_of(found, Otherwise(flow=share))
            return water is not None and not _is_over(water, limit)

        if holds(_LEAST_FLOW):
            rows[limit] = 0.0
        elif holds(_MOST_FLOW):
            rows[limit] = least(holds, _LEAST_FLOW, _MOST_FLOW, _HALVINGS)
    return rows


def _is_over(water: WaterResult, limit: str) -> bool:
    for id_, stock in water.stock.items():
        at, fish = water.vessels[id_], stock.species
        if limit == "oxygen" and at.oxygen < fish.least_oxygen:
            return True
        if limit == "ammonia" and at.ammonia > fish.most_ammonia:
            return True
    return False


def meal_adds(found: Evaluation, water: WaterResult) -> float:
    """Ammonia nitrogen that a second day's feed in one day adds to all the water.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    float
        Concentration within six hours, before bacteria have turned any over: 0.6 of what the feed
        makes (assumed), [g/m³]
    """
    volume = sum(v.volume for v in found.vessels.values())
    made = sum(s.feed * s.protein * TAN_OF_PROTEIN for s in water.stock.values())
    return _SOON * made / max(volume, 1e-9)


def idle_adds(found: Evaluation, water: WaterResult) -> float:
    """Ammonia nitrogen that a day with all bacteria at rest adds to all the water.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    float
        Concentration, [g/m³]
    """
    volume = sum(v.volume for v in found.vessels.values())
    return water.made / max(volume, 1e-9)


def meal_ph(found: Evaluation, water: WaterResult) -> tuple[str, float]:
    """Lowest pH of a fish tank just after a double meal.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    (str, float)
        The tank, and its pH with carbon dioxide over its balance with the air grown as the fish
        breathe: twice the feed, and 1.4 times as fast as in the mean (assumed), [-]
    """
    rows = []
    for tank in water.stock:
        at = water.vessels[tank]
        over = max(at.carbon_dioxide - CO2_IN_BALANCE, 0.0)
        dioxide = CO2_IN_BALANCE + _DOUBLE * _BREATHES * over
        rows.append((tank, ph_of(found.plan.site.alkalinity, dioxide, found.water.temperature)))
    return min(rows, key=lambda row: row[1])
