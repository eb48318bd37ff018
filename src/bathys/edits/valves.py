"""Valves fitted, turned and opened."""

from typing import Any

from bathys.edits.editing import Edit
from bathys.plan.pipes import Run

__all__ = ["SHUT", "has_lever", "open_valve", "throttle"]

SHUT = 90.0
"""Angle of a lever across its pipe [°]."""


def throttle(angle: float) -> dict[str, Any]:
    """The valve that is fitted to set a flow or to shut a run.

    Parameters
    ----------
    angle : float
        Of its lever from open, [°]

    Returns
    -------
    dict
        The valve as plan data
    """
    return {"kind": "ball", "angle": angle}


def has_lever(run: Run) -> bool:
    """Whether a run has a valve that can be turned to an angle.

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    bool
        Whether it has
    """
    return run.valve is not None and run.valve.HAS_LEVER


def open_valve(run: Run) -> Edit:
    """Open the valve that a run has.

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    Edit
        The edit that does so
    """
    assert run.valve is not None  # noqa: S101 - asked of runs with a valve
    return Edit(f"runs.{run.id}.valve.{run.valve.SETTING}", run.valve.OPEN)
