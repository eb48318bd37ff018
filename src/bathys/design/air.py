"""Air: stones and the pump for them."""

import math

from bathys.design.draft import Draft
from bathys.parts.practice import (
    CARRIERS_TUMBLE,
)
from bathys.plan.shell import Shell

__all__ = ["add_air", "filter_air", "raft_air", "tank_air"]

_HOUR = 3600.0
_AIR_WATTS = 21_000.0  # of an air pump, for a cubic metre a second (common practice) [W s/m³]
_AIR_SPARE = 2.4  # label flow of an air pump over what its stones get at their depth [-]
_AIR_LINES = ((1e-4, 0.006), (3e-4, 0.008), (8e-4, 0.012), (math.inf, 0.019))  # [m³/s], [m]
_ROOT_AIR = 3.2e-5  # for each square metre of raft (common practice) [m/s]


def add_air(draft: Draft, wanted: list[tuple[str, float]]) -> None:
    """Stones and an air pump for them.

    Parameters
    ----------
    draft : Draft
        The draft
    wanted : list of (str, float)
        Ids of vessels, and the air that each is to get, [m³/s]
    """
    pump, total = draft.named("AP"), sum(flow for _, flow in wanted)
    most = math.ceil(_AIR_SPARE * total * 1e5) / 1e5
    draft.part(
        "air_pumps",
        kind="air_pump",
        id=pump,
        name="Air pump",
        max_flow=most,
        max_pressure=30_000.0,
        power=math.ceil(_AIR_WATTS * most),
    )
    for id_, flow in wanted:
        draft.part(
            "air",
            kind="stone",
            id=draft.named("A"),
            name="Stone",
            stands_in=id_,
            fed_by=pump,
            flow=round(flow, 6),
            line_diameter=next(wide for most, wide in _AIR_LINES if flow <= most),
        )


def tank_air(shell: Shell) -> float:
    """Air for a fish tank: a little over its volume an hour (common practice) [m³/s].

    Parameters
    ----------
    shell : Shell
        The tank

    Returns
    -------
    float
        The air, [m³/s]
    """
    return 1.2 * shell.capacity / _HOUR


def filter_air(shell: Shell) -> float:
    """Air that tumbles a filter's carriers [m³/s].

    Parameters
    ----------
    shell : Shell
        The filter

    Returns
    -------
    float
        The air, [m³/s]
    """
    return 1.1 * CARRIERS_TUMBLE * shell.footprint


def raft_air(shell: Shell) -> float:
    """Air for the roots under a raft [m³/s].

    Parameters
    ----------
    shell : Shell
        The raft

    Returns
    -------
    float
        The air, [m³/s]
    """
    return _ROOT_AIR * shell.footprint
