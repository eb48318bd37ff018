"""Air valves set so that each stone gets its share."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.halving import greatest, least
from bathys.plan.stock import Aerator, AirSource
from bathys.quality.surfaces import depth_of

__all__ = ["AirSetting", "air_settings"]

_LEAST_OPEN, _MOST_TIMES, _HALVINGS = 0.02, 20.0, 40


@dataclass(frozen=True, slots=True)
class AirSetting:
    """How far one air valve is to stand open.

    Attributes
    ----------
    aerator : Aerator
        The stone
    opening : float
        Of its valve, [-]
    flow : float
        That it gets once all are set, [m³/s]
    """

    aerator: Aerator
    opening: float
    flow: float


def air_settings(found: Evaluation, pump: AirSource) -> tuple[AirSetting, ...]:
    """Valves of one air pump's stones, so that their air is as they are told among themselves.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    pump : AirSource
        The air pump

    Returns
    -------
    tuple of AirSetting
        In the plan's order, the hardest to reach wide open; none if some stone lies deeper than
        the pump reaches
    """
    own = [a for a in found.plan.air if a.fed_by == pump.id]
    levels = {a.id: depth_of(found, a.stands_in) for a in own}
    wanted = sum(a.flow for a in own)

    def asks(aerator: Aerator, opening: float, times: float) -> float:
        valve = aerator.model_copy(update={"valve_open": opening})
        return valve.asks(times * aerator.flow, levels[aerator.id], found.water.density)

    def reaches(times: float) -> bool:
        gives = pump.pressure(times * wanted)
        return all(asks(a, 1.0, times) <= gives for a in own)

    if not own or not reaches(1e-6):
        return ()
    times = greatest(reaches, 1e-6, _MOST_TIMES, _HALVINGS)
    gives = pump.pressure(times * wanted)

    def opening(aerator: Aerator) -> float:
        def lets(share: float) -> bool:
            return asks(aerator, share, times) <= gives

        return least(lets, _LEAST_OPEN, 1.0, _HALVINGS)

    return tuple(AirSetting(a, opening(a), times * a.flow) for a in own)
