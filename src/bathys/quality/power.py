"""Watts, hours and cost of everything electrical."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Protocol

from bathys.evaluation import Evaluation
from bathys.parts.climate import SUN
from bathys.plan.tariff import ALL_DAY, Spell, mean_price, night_hours, spells_of

__all__ = [
    "Circuit",
    "Consumer",
    "battery_charge",
    "circuits_of",
    "panel_watts",
    "power_of",
    "watts_needed",
]

_KWH = 1000.0
_YEAR = 365.0
_HOUR = 3600.0
_USABLE = {"lead": 0.5, "lithium": 0.8}
_LOSSES = 0.9  # of what a battery gives (common practice)
_VOLTS = 12.0
_PANEL = 0.75  # of what a panel could give, after all losses (common practice) [-]


class _Plugged(Protocol):
    """A part that hangs on a circuit."""

    @property
    def id(self) -> str: ...

    @property
    def circuit(self) -> str: ...


@dataclass(frozen=True, slots=True)
class Consumer:
    """Something that draws power.

    Attributes
    ----------
    id : str
        Its part
    circuit : str
        That it hangs on; empty for the one that all share
    watts : float
        While it runs, [W]
    hours, night_hours : float
        A day, and of them at the night price, [h]
    energy : float
        A day, [kWh]
    cost : float
        A year, [money]
    must_run : bool
        Whether fish die without it within hours
    """

    id: str
    circuit: str
    watts: float
    hours: float
    night_hours: float
    energy: float
    cost: float
    must_run: bool


@dataclass(frozen=True, slots=True)
class Circuit:
    """What hangs on one fuse or plug.

    Attributes
    ----------
    name : str
        Its name; empty for the one that all share
    watts : float
        If all of it runs at once, [W]
    energy : float
        That its meter should count a day, [kWh]
    cost : float
        A year, [money]
    """

    name: str
    watts: float
    energy: float
    cost: float


def power_of(found: Evaluation) -> tuple[Consumer, ...]:
    """Water pumps, air pumps, and what else is plugged in.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Consumer
        The greatest first
    """
    plan = found.plan
    pumps = {p.id: p for p in plan.pumps}
    # A pump's cost is that of its duty, which knows its winter hours too.
    rows = [
        replace(
            _consumer(
                found, pumps[id_], duty.power, spells_of(pumps[id_].clock, duty.share), False
            ),
            cost=duty.cost_year,
        )
        for id_, duty in found.duties.items()
    ]
    rows += [_consumer(found, pump, pump.watts, ALL_DAY, True) for pump in plan.air_pumps]
    rows += [
        _consumer(found, part, part.watts, ((part.spell, 1.0),), part.needed)
        for part in plan.appliances
    ]
    return tuple(sorted(rows, key=lambda c: -c.energy))


def watts_needed(consumers: Sequence[Consumer]) -> float:
    """What must go on in a power cut: air pumps and what is marked so; all of it where there is
    none of these.

    Parameters
    ----------
    consumers : sequence of Consumer
        All that draws power

    Returns
    -------
    float
        That it draws, [W]
    """
    needed = sum(c.watts for c in consumers if c.must_run)
    return needed or sum(c.watts for c in consumers)


def circuits_of(consumers: Sequence[Consumer]) -> tuple[Circuit, ...]:
    """What each circuit carries.

    Parameters
    ----------
    consumers : sequence of Consumer
        All that draws power

    Returns
    -------
    tuple of Circuit
        By their names, the one that all share last
    """
    names = sorted({c.circuit for c in consumers}, key=lambda name: (not name, name))
    return tuple(
        Circuit(
            name,
            sum(c.watts for c in consumers if c.circuit == name),
            sum(c.energy for c in consumers if c.circuit == name),
            sum(c.cost for c in consumers if c.circuit == name),
        )
        for name in names
    )


def _consumer(
    found: Evaluation, part: _Plugged, watts: float, spells: tuple[Spell, ...], must_run: bool
) -> Consumer:
    site = found.plan.site
    hours = sum(lasts * share for (_, lasts), share in spells) / _HOUR
    energy = watts * hours / _KWH
    return Consumer(
        part.id,
        part.circuit,
        watts,
        hours,
        night_hours(site, spells),
        energy,
        energy * _YEAR * mean_price(site, spells),
        must_run,
    )


def battery_charge(watts: float, hours: float, kind: str) -> float:
    """Charge of a 12 V battery that runs something for so long.

    Parameters
    ----------
    watts : float
        That it draws, [W]
    hours : float
        How long, [h]
    kind : str
        ``lead`` or ``lithium``

    Returns
    -------
    float
        Charge, [A h]
    """
    return watts * hours / (_VOLTS * _USABLE[kind] * _LOSSES)


def panel_watts(energy: float, sun: str) -> float:
    """Watts of solar panel that give so much energy on a day of the hot season; a hint, no design.

    Parameters
    ----------
    energy : float
        A day, [kWh]
    sun : str
        A class of the site's sun

    Returns
    -------
    float
        As labelled, [W]
    """
    return energy * _KWH / (SUN[sun] * _PANEL)
