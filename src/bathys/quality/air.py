"""Air: what each pump gives to its stones."""

from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock

from cachetools import LRUCache, cached

from bathys.evaluation import Evaluation
from bathys.plan.stock import Aerator, AirSource

__all__ = ["AirShare", "air_flows", "air_shares"]


@dataclass(frozen=True, slots=True)
class AirShare:
    """What one pump does.

    Attributes
    ----------
    pump : str
        Its id
    pressure : float
        In its manifold, [Pa]
    flow : float
        That it gives in all, [m³/s]
    flows : mapping of str to float
        By aerator, [m³/s]
    asked : mapping of str to float
        Pressure from which on each lets out anything, [Pa]
    """

    pump: str
    pressure: float
    flow: float
    flows: Mapping[str, float]
    asked: Mapping[str, float]


def _level(found: Evaluation, aerator: Aerator) -> float:
    result = found.vessels[aerator.stands_in]
    return max(result.levels.high - result.vessel.floor_height, 0.0)


def _same(found: Evaluation) -> int:
    return id(found)


@cached(LRUCache(maxsize=8), key=_same, lock=Lock())
def _kept(found: Evaluation) -> list[tuple[Evaluation, tuple[AirShare, ...]]]:
    """Kept with its evaluation, so that no other can have its identity."""
    return [(found, tuple(_Manifold(found, pump).share() for pump in found.plan.air_pumps))]


def air_shares(found: Evaluation) -> tuple[AirShare, ...]:
    """How each air pump's air parts over its aerators.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of AirShare
        In the plan's order; the manifold's pressure is the one at which all together take what the
        pump gives. Kept, since water, rules and pages all ask
    """
    return _kept(found)[0][1]


class _Manifold:
    """One pump and the aerators on it."""

    def __init__(self, found: Evaluation, pump: AirSource) -> None:
        self.pump = pump
        self.density = found.water.density
        self.own = [a for a in found.plan.air if a.fed_by == pump.id]
        self.levels = {a.id: _level(found, a) for a in self.own}

    def asks(self, aerator: Aerator, flow: float) -> float:
        return aerator.asks(flow, self.levels[aerator.id], self.density)

    def taken(self, pressure: float) -> dict[str, float]:
        """What each lets out at a pressure of the manifold [m³/s]."""
        return {a.id: self._lets_out(a, pressure) for a in self.own}

    def _lets_out(self, aerator: Aerator, pressure: float) -> float:
        from scipy.optimize import brentq  # noqa: PLC0415 - slow to load

        most = self.pump.most_flow
        if self.asks(aerator, 0.0) >= pressure:
            return 0.0
        if self.asks(aerator, most) <= pressure:
            return most
        return float(
            brentq(lambda q: self.asks(aerator, q) - pressure, 0.0, most, xtol=1e-12, rtol=1e-10)
        )

    def _over(self, pressure: float) -> float:
        """What the pump gives over a pressure, while all take what they do [Pa]."""
        return self.pump.pressure(sum(self.taken(pressure).values())) - pressure

    def share(self) -> AirShare:
        """The manifold in balance: what all take never falls with its pressure, and what the pump
        gives never rises with what they take."""
        from scipy.optimize import brentq  # noqa: PLC0415 - slow to load

        top = self.pump.most_pressure
        pressure = float(brentq(self._over, 0.0, top, xtol=1e-6, rtol=1e-10)) if self.own else top
        flows = self.taken(pressure)
        return AirShare(
            self.pump.id,
            pressure,
            sum(flows.values()),
            flows,
            {a.id: self.asks(a, 0.0) for a in self.own},
        )


def air_flows(found: Evaluation) -> dict[str, float]:
    """Free air of every aerator: by its pump, or as it is told.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to float
        By the aerator's id, [m³/s]
    """
    shared = {id_: q for share in air_shares(found) for id_, q in share.flows.items()}
    known = {p.id for p in found.plan.air_pumps}
    return {a.id: shared.get(a.id, 0.0) if a.fed_by in known else a.flow for a in found.plan.air}
