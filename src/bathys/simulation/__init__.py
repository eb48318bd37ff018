"""Levels through time.

Public: :class:`BellSiphonModel` (what a bell does), :class:`PumpedBedLoop` (one pump, one bed,
one siphon back to the pump's vessel), :class:`FedBed` (any other siphon bed),
:func:`run_cycle`, :func:`cut_power`.
"""

from bathys.simulation.bell import BellSiphonModel, Window
from bathys.simulation.cycle import Cycle, Trace, run_cycle
from bathys.simulation.feed import FedBed
from bathys.simulation.loop import PumpedBedLoop, pump_flow
from bathys.simulation.outage import Outage, cut_power

__all__ = [
    "BellSiphonModel", "Cycle", "FedBed", "Outage", "PumpedBedLoop", "Trace", "Window", "cut_power",
    "pump_flow", "run_cycle",
]  # fmt: skip
