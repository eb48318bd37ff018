"""Switches set."""

from bathys.edits.editing import Edit
from bathys.plan.pumps import Pump

__all__ = ["can_set_start", "rest_for", "start_at"]


def can_set_start(pump: Pump) -> bool:
    """Whether the level at which a pump starts can be set: not that of a float built into it.

    Parameters
    ----------
    pump : Pump
        The pump

    Returns
    -------
    bool
        Whether it can
    """
    return pump.switch is not None and bool(pump.switch.START)


def rest_for(pump: Pump, time: float) -> Edit:
    """Let a pump that goes by the clock rest so long [s].

    Parameters
    ----------
    pump : Pump
        The pump
    time : float
        A time since the beginning, [s]

    Returns
    -------
    Edit
        The edit that does so
    """
    assert pump.switch is not None  # noqa: S101 - asked of pumps with a clock
    return Edit(f"pumps.{pump.id}.switch.{pump.switch.REST}", time)


def start_at(pump: Pump, level: float) -> Edit:
    """Let a pump that goes by the water start at a level over its vessel's floor [m].

    Parameters
    ----------
    pump : Pump
        The pump
    level : float
        A level over the datum, [m]

    Returns
    -------
    Edit
        The edit that does so
    """
    assert pump.switch is not None  # noqa: S101 - asked of pumps with a band
    return Edit(f"pumps.{pump.id}.switch.{pump.switch.START}", level)
