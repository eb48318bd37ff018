"""What a brief allows at most: watts, money and load on the ground. Each is kept or named."""

import math
from collections.abc import Iterator

from bathys.build.shopping import shopping_list
from bathys.design.brief import DesignBrief
from bathys.design.refusing import DesignRefused
from bathys.evaluation import Evaluation
from bathys.evaluation.loads import full_mass
from bathys.ground.placing import footprint_of
from bathys.physics import GRAVITY
from bathys.plan.vessel import Vessel
from bathys.shelf import PriceList, money

__all__ = ["LIMITS", "check_limits", "cost_of", "heaviest_load", "watts_of"]

LIMITS = ("room_length", "most_load", "most_watts", "budget")
"""Fields of a brief that are kept or named."""

_COVERED = 0.65  # of a room, with aisles between (common practice) [-]
_STOCK = {"metric": 5.0, "us": 3.048}  # length in which pipe is sold (common practice) [m]


def watts_of(found: Evaluation) -> float:
    """Watts of all pumps and air pumps in the mean of a day [W].

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    float
        Pumps with a clock by their turns, [W]
    """
    plan = found.plan
    pumps = (p.power * (p.clock.share if p.clock is not None else 1.0) for p in plan.pumps)
    return float(sum(pumps) + sum(p.watts for p in plan.air_pumps))


def cost_of(found: Evaluation, brief: DesignBrief, prices: PriceList) -> tuple[float, int] | None:
    """What is bought for a plan costs, as far as prices are known.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    brief : DesignBrief
        The brief
    prices : PriceList
        The builder's prices and what is at hand

    Returns
    -------
    (float, int) or None
        The sum, [money], and how many things have no price, [-]; None if nothing has one
    """
    bought = shopping_list(found, _STOCK[brief.units], prices)
    unknown = len(bought.without_price)
    return (bought.total, unknown) if unknown < len(bought.lines) else None


def heaviest_load(found: Evaluation) -> tuple[str, float]:
    """The vessel that weighs most on its footprint when it is full.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    (str, float)
        Its id and the load, [Pa]
    """
    loads = {id_: full_mass(found, r) / r.area * GRAVITY for id_, r in found.vessels.items()}
    worst = max(loads, key=lambda id_: loads[id_])
    return worst, loads[worst]


def check_limits(found: Evaluation, brief: DesignBrief, prices: PriceList) -> None:
    """See to it that a plan keeps what its brief allows at most.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    brief : DesignBrief
        The brief
    prices : PriceList
        The builder's prices and what is at hand

    Raises
    ------
    DesignRefused
        If it does not, with by how much, and the limit that it does keep
    """
    for refused in _broken(found, brief, prices):
        raise refused


def _out_of_room(found: Evaluation, brief: DesignBrief) -> Iterator[DesignRefused]:
    """Each vessel fits the room, and all together leave room to walk; what stands over another
    takes none."""
    if brief.room_length is None or brief.room_width is None:
        return
    room = sorted((brief.room_length, brief.room_width))
    figures = {"long": room[1], "wide": room[0]}
    for vessel in found.plan.vessels:
        left, near, right, far = footprint_of(vessel.shape).bounds
        sides = sorted((right - left, far - near))
        if sides[0] > room[0] or sides[1] > room[1]:
            yield DesignRefused(
                "room_length",
                "{vessel:words} is {one:length} by {two:length}: it does not fit a room of "
                "{long:length} by {wide:length}.",
                {**figures, "vessel": vessel.name, "one": sides[1], "two": sides[0]},
                {
                    "room_length": _up(max(room[1], sides[1])),
                    "room_width": _up(max(room[0], sides[0])),
                },
            )
    ground = [v for v in found.plan.vessels if not _stands_over(found, v)]
    covered = sum(v.shape.footprint for v in ground)
    if covered > _COVERED * room[0] * room[1]:
        yield DesignRefused(
            "room_length",
            "Vessels cover {covered:surface}; in a room of {long:length} by {wide:length} that "
            "leaves too little to walk and reach. Take fewer or smaller vessels.",
            {**figures, "covered": covered},
            {"room_length": _up(covered / _COVERED / room[0]), "room_width": _up(room[0])},
        )


def _stands_over(found: Evaluation, vessel: Vessel) -> bool:
    """Whether a vessel may stand over the fish tank: where there is no sump, beds do."""
    has_sump = any(v.job == "sump" for v in found.plan.vessels)
    return not has_sump and vessel.floor_height > 0.0


def _up(length: float) -> float:
    return math.ceil(length * 100.0 - 1e-9) / 100.0


def _broken(found: Evaluation, brief: DesignBrief, prices: PriceList) -> Iterator[DesignRefused]:
    yield from _out_of_room(found, brief)
    if brief.most_load is not None:
        vessel, load = heaviest_load(found)
        name = found.plan.vessel(vessel).name
        if load > brief.most_load:
            yield DesignRefused(
                "most_load",
                "{vessel:words} weighs {load:pressure_load} on its footprint, you allowed "
                "{allowed:pressure_load}. Take lower or fewer vessels, spread the load, and have a "
                "structural engineer check it.",
                {"load": load, "allowed": brief.most_load, "vessel": name},
                {"most_load": math.ceil(load / 50.0) * 50.0},
            )
    if brief.most_watts is not None:
        watts = watts_of(found)
        if watts > brief.most_watts:
            yield DesignRefused(
                "most_watts",
                "Its pumps and air pump draw {watts:power}, you allowed {allowed:power}. Take less "
                "water to move, a lower lift, or allow more.",
                {"watts": watts, "allowed": brief.most_watts},
                {"most_watts": float(math.ceil(watts))},
            )
    if brief.budget is not None:
        known = cost_of(found, brief, prices)
        if known is not None and known[0] > brief.budget:
            yield DesignRefused(
                "budget",
                "What has a price under Parts comes to {cost:words}, you allowed "
                "{allowed:words}. Take fewer or smaller vessels, use what is at hand, or allow "
                "more.",
                {
                    "cost": money(known[0], prices.currency),
                    "allowed": money(brief.budget, prices.currency),
                },
                {"budget": float(math.ceil(known[0]))},
            )
