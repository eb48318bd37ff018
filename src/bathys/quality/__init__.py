"""What the water carries: one transport model over a plan's mean flows, and solids by grain.

Public: :func:`flow_net`, :func:`~bathys.quality.transport.steady`,
:func:`~bathys.quality.transport.carried_through`, :func:`solids_of`.
"""

from bathys.quality.flows import flow_net
from bathys.quality.grains import GrainClass, classes_of
from bathys.quality.settling import SettlerResult
from bathys.quality.solids import SolidsResult, solids_of
from bathys.quality.transport import (
    Carried,
    Constituent,
    FlowNet,
    Leg,
    carried_through,
    steady,
)

__all__ = [
    "Carried",
    "Constituent",
    "FlowNet",
    "GrainClass",
    "Leg",
    "SettlerResult",
    "SolidsResult",
    "carried_through",
    "classes_of",
    "flow_net",
    "solids_of",
    "steady",
]
