"""Levels through time.

Public: :class:`BellSiphonModel` (what a bell does), :class:`PumpedBedLoop` (one pump, one bed,
one siphon back to the pump's vessel), :class:`FedBed` (any other siphon bed),
:func:`run_cycle`, :func:`cut_power`; :func:`simulate` (any layout through time).
"""

from bathys.simulation.bell import BellSiphonModel, Window
from bathys.simulation.cycle import Cycle, Trace, run_cycle
from bathys.simulation.feed import FedBed
from bathys.simulation.loop import PumpedBedLoop, pump_flow
from bathys.simulation.outage import Outage, cut_power
from bathys.simulation.system import NotSimulated
from bathys.simulation.through_time import Event, PowerCut, Through, simulate

__all__ = [
    "BellSiphonModel", "Cycle", "Event", "FedBed", "NotSimulated", "Outage", "PowerCut",
    "PumpedBedLoop", "Through", "Trace", "Window", "cut_power", "pump_flow", "run_cycle",
    "simulate",
]  # fmt: skip
