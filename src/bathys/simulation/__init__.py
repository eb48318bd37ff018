"""Levels through time.

Public: :class:`SiphonModel` (what a siphon does), :class:`PumpedBedLoop` (one pump, one bed,
one siphon back to the pump's vessel), :class:`FedBed` (any other siphon bed),
:func:`run_cycle`, :func:`cut_power`; :func:`simulate` (any layout through time),
:func:`follow` (the same, with things done to it on the way).
"""

from bathys.simulation.cycle import Cycle, Trace, run_cycle, unevenly_fed
from bathys.simulation.errors import Abandoned, NotSimulated
from bathys.simulation.feed import FedBed
from bathys.simulation.loop import PumpedBedLoop, pump_flow
from bathys.simulation.outage import Outage, cut_power
from bathys.simulation.outer import DRY_AIR, Rain, Weather
from bathys.simulation.siphon import SiphonModel, Window
from bathys.simulation.story import DEEDS, Deed, DeedKind, follow, joined_through
from bathys.simulation.through import Event, Moment, PowerCut, Through
from bathys.simulation.through_time import Doings, always, simulate

__all__ = [
    "DEEDS", "DRY_AIR", "Abandoned", "Cycle", "Deed", "DeedKind", "Doings", "Event", "FedBed",
    "Moment", "NotSimulated", "Outage", "PowerCut", "PumpedBedLoop", "Rain", "SiphonModel",
    "Through", "Trace", "Weather", "Window", "always", "cut_power", "follow",
    "joined_through", "pump_flow", "run_cycle", "simulate", "unevenly_fed",
]  # fmt: skip
