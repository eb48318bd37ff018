"""Levels through time.

Public: :class:`SiphonModel` (what a siphon does), :class:`PumpedBedLoop` (one pump, one bed,
one siphon back to the pump's vessel), :class:`FedBed` (any other siphon bed),
:func:`run_cycle`, :func:`cut_power`; :func:`simulate` (any layout through time).
"""

from bathys.simulation.cycle import Cycle, Trace, run_cycle, unevenly_fed
from bathys.simulation.errors import Abandoned, NotSimulated
from bathys.simulation.feed import FedBed
from bathys.simulation.loop import PumpedBedLoop, pump_flow
from bathys.simulation.outage import Outage, cut_power
from bathys.simulation.outer import DRY_AIR, Rain, Weather
from bathys.simulation.siphon import SiphonModel, Window
from bathys.simulation.through import Event, Moment, PowerCut, Through
from bathys.simulation.through_time import Doings, always, simulate

__all__ = [
    "DRY_AIR", "Abandoned", "Cycle", "Doings", "Event", "FedBed", "Moment", "NotSimulated",
    "Outage", "PowerCut", "PumpedBedLoop", "Rain", "SiphonModel", "Through", "Trace", "Weather",
    "Window", "always", "cut_power", "pump_flow", "run_cycle", "simulate", "unevenly_fed",
]  # fmt: skip
