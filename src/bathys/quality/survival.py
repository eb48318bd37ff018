"""How long fish have oxygen when water or air stands still."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.quality.power import battery_charge, power_of, watts_needed
from bathys.quality.water import OPEN_SURFACE, water_of
from bathys.quality.water_result import WaterResult

__all__ = ["Bridge", "Survival", "about", "bridge_of", "outlive", "survivals_of"]

_DAY = 86400.0
_LONGEST = 30.0 * _DAY
_KNOWN = 1.5  # times the cut that oxygen is to last, since it is known to a third
_MINUTES = 600.0  # from here on seconds mean nothing [s]


@dataclass(frozen=True, slots=True)
class Survival:
    """How long the oxygen of one tank lasts.

    Attributes
    ----------
    vessel : str
        The tank
    least : float
        Oxygen below which its fish suffer, [g/m³]
    no_flow, no_air, neither : float or None
        Until then with the pumps off, with the air off, and with both, [s]; none if it stays over
        that
    """

    vessel: str
    least: float
    no_flow: float | None
    no_air: float | None
    neither: float | None


def about(seconds: float) -> float:
    """A time as it is told: to the minute from ten minutes on, since it is known to a third.

    Parameters
    ----------
    seconds : float
        The time, [s]

    Returns
    -------
    float
        The same, rounded, [s]
    """
    return 60.0 * round(seconds / 60.0) if seconds >= _MINUTES else seconds


def survivals_of(found: Evaluation, water: WaterResult) -> tuple[Survival, ...]:
    """Every tank with fish, from how it stands in the long run.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    tuple of Survival
        In the plan's order

    Notes
    -----
    What fish and bacteria take is held constant, which is cautious: they take less as it runs
    short. What flows in keeps its oxygen while the air is off, and the open surface counts always.
    """
    return tuple(_Tank(found, water, id_).survival() for id_ in water.stock)


def outlive(survivals: Iterable[Survival], cut: float) -> bool:
    """Whether all tanks surely have oxygen for as long as the power is away.

    Parameters
    ----------
    survivals : iterable of Survival
        Of all tanks with fish
    cut : float
        How long the power is away, [s]

    Returns
    -------
    bool
        Whether oxygen lasts half as long again, with water and air off
    """
    return all(s.neither is None or s.neither >= _KNOWN * cut for s in survivals)


@dataclass(frozen=True, slots=True)
class Bridge:
    """What keeps fish alive through the longest power cut that the builder told.

    Attributes
    ----------
    cut : float
        How long the power is away, [s]
    watts : float
        What goes on meanwhile, [W]
    lead, lithium : float
        Charge of a 12 V battery for it, by kind, [A h]
    """

    cut: float
    watts: float
    lead: float
    lithium: float


def bridge_of(found: Evaluation) -> Bridge | None:
    """The battery that the longest power cut asks for.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Bridge or None
        None where no cut or no fish are told, where they surely outlive it, or where nothing could
        go on
    """
    cut = found.plan.brief.power_cut
    water = water_of(found) if cut and found.plan.fish else None
    if not cut or water is None or outlive(survivals_of(found, water), cut):
        return None
    watts = watts_needed(power_of(found))
    if watts <= 0.0:
        return None
    hours = cut / 3600.0
    lead, lithium = (battery_charge(watts, hours, kind) for kind in ("lead", "lithium"))
    return Bridge(cut, watts, lead, lithium)


class _Tank:
    """One tank and what becomes of its oxygen: dC/dt = (air (C* − C) + own (Cs − C) + moves
    (Cin − C) − demand)/V."""

    def __init__(self, found: Evaluation, water: WaterResult, id_: str) -> None:
        result = found.vessels[id_]
        self.id, self.holds, self.lacks = id_, water.holds, water.bubbles_lack
        self.volume, self.flow = max(result.volume, 1e-9), result.inflow
        self.now = water.vessels[id_].oxygen
        self.least = water.stock[id_].species.least_oxygen
        bare = result.vessel.shape.footprint * (1.0 - result.vessel.covered)
        self.own = OPEN_SURFACE / _DAY * bare
        self.taken = water.used_in[id_] / _DAY
        self.stones = water.stones.get(id_, 0.0)
        # Steady: what flows through makes up what stones and surface do not.
        short = self.holds - self.now
        rest = self.taken - self.own * short - self.stones * (short - self.lacks)
        self.enters = self.now + rest / self.flow if self.flow > 0.0 else self.now

    def _lasts(self, stones: float, flow: float) -> float | None:
        rate = (stones + self.own + flow) / self.volume
        gives = (
            stones * (self.holds - self.lacks)
            + self.own * self.holds
            + flow * self.enters
            - self.taken
        ) / self.volume
        return _until(self.now, self.least, rate, gives)

    def survival(self) -> Survival:
        """With the pumps off, with the air off, with both off."""
        return Survival(
            self.id,
            self.least,
            self._lasts(self.stones, 0.0),
            self._lasts(0.0, self.flow),
            self._lasts(0.0, 0.0),
        )


def _until(start: float, limit: float, rate: float, gives: float) -> float | None:
    """Time until C of dC/dt = gives − rate C falls to a limit [s]; none if it never does."""
    if start <= limit:
        return 0.0
    if rate <= 0.0:
        return (start - limit) / -gives if gives < 0.0 else None
    ends = gives / rate
    if ends >= limit:
        return None
    time = math.log((start - ends) / (limit - ends)) / rate
    return time if time < _LONGEST else None
