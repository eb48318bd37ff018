"""Watts, hours and cost of everything electrical."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation

__all__ = ["Consumer", "battery_charge", "power_of"]

_KWH = 1000.0
_YEAR = 365.0
_HOURS = 24.0
_USABLE = {"lead": 0.5, "lithium": 0.8}
_LOSSES = 0.9  # of what a battery gives (common practice)
_VOLTS = 12.0


@dataclass(frozen=True, slots=True)
class Consumer:
    """Something that draws power.

    Attributes
    ----------
    id : str
        Its part
    watts : float
        While it runs, [W]
    hours : float
        A day, [h]
    energy : float
        A day, [kWh]
    cost : float
        A year, [money]
    must_run : bool
        Whether fish die without it within hours
    """

    id: str
    watts: float
    hours: float
    energy: float
    cost: float
    must_run: bool


def power_of(found: Evaluation) -> tuple[Consumer, ...]:
    """Water pumps and air pumps of a plan.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Consumer
        The greatest first
    """
    tariff = found.plan.site.tariff
    rows = [(id_, duty.power, _HOURS * duty.share, False) for id_, duty in found.duties.items()]
    rows += [(pump.id, pump.watts, _HOURS, True) for pump in found.plan.air_pumps]
    made = [
        Consumer(
            id_, watts, hours, watts * hours / _KWH, watts * hours / _KWH * _YEAR * tariff, must
        )
        for id_, watts, hours, must in rows
    ]
    return tuple(sorted(made, key=lambda c: -c.energy))


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
