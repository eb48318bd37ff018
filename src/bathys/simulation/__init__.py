"""Levels through time.

Public: :class:`SiphonModel` (what a siphon does), :class:`PumpedBedLoop` (one pump, one bed,
one siphon back to the pump's vessel), :class:`EvenlyFedBed` (any other siphon bed),
:func:`run_cycle`, :func:`cut_power`; :func:`simulate` (any layout through time).
"""

from bathys.simulation.boundary_conditions import DRY_AIR, Rain, Weather
from bathys.simulation.cycle import Cycle, Trace, run_cycle, unevenly_fed
from bathys.simulation.doings import Doings, always
from bathys.simulation.errors import Abandoned, NotSimulated
from bathys.simulation.loop import PumpedBedLoop, pump_flow
from bathys.simulation.outage import Outage, cut_power
from bathys.simulation.result import Event, Moment, PowerCut, SimulationResult
from bathys.simulation.siphon import SiphonModel, Window
from bathys.simulation.steady_inflow import EvenlyFedBed
from bathys.simulation.valve_clocks import simulate

__all__ = [
    "DRY_AIR",
    "Abandoned",
    "Cycle",
    "Doings",
    "EvenlyFedBed",
    "Event",
    "Moment",
    "NotSimulated",
    "Outage",
    "PowerCut",
    "PumpedBedLoop",
    "Rain",
    "SimulationResult",
    "SiphonModel",
    "Trace",
    "Weather",
    "Window",
    "always",
    "cut_power",
    "pump_flow",
    "run_cycle",
    "simulate",
    "unevenly_fed",
]
