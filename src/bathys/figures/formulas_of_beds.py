"""The formulas of beds and their siphons."""

import math

from bathys.figures.figure import Formula
from bathys.figures.found_by import BALANCED, BY_LEVEL
from bathys.physics import GRAVITY, area_of

__all__ = [
    "BED_HIGH",
    "BED_LOW",
    "CYCLE",
    "CYCLES",
    "DRAIN",
    "FILL",
    "SIPHON_INFLOW",
    "START",
    "STOP",
]

CYCLE = Formula(
    "Siphon cycle",
    "time",
    "t = ∫ A φ dh ÷ (inflow − outflow), from break to start and back",
    "mass balance of the bed",
    "derived",
    worked="filling {2} + draining {3}",
    found=BY_LEVEL,
)
CYCLES = Formula(
    "Cycle of the beds",
    "time",
    "mean over the beds of t = ∫ A φ dh ÷ (inflow − outflow)",
    "mass balance of every bed",
    "derived",
    worked="the beds take {0} to {1}, in the mean",
    found="the mean of their cycles",
)
SIPHON_INFLOW = Formula(
    "Inflow the siphon gets",
    "flow",
    "start: Q = Fr (π/4) d² √(g d); stop: a share of the full flow at the intake",
    "self-venting limit: Simpson (1968), Hills (1983), from memory; the share that stops it "
    "is assumed",
    "derived",
    worked="start: {1} × π/4 × ({0})² × √(g × {0}); stop: {2} of what runs full from "
    "{3} + {4} of fall; it gets",
    found=BALANCED,
)
BED_LOW = Formula(
    "At its lowest",
    "length",
    "where air gets into its siphon: top of the slots, or mouth of the air tube",
    "as built",
    "derived",
    lambda intake, step: max(intake - step, 0.0),
    worked="{0}, less {1} that its floor lies higher",
)
BED_HIGH = Formula(
    "At its highest",
    "length",
    "the siphon’s rim and the water over it that starts it",
    "rims: shaft-spillway practice (memory)",
    "derived",
    worked="a rim at {0}, and what stands over it as it starts:",
    found="the water over its rim at which it starts",
)
START = Formula(
    "Starts above",
    "flow",
    "Q = Fr (π/4) d² √(g d), less what an elbow turned up at the tail’s end takes off",
    "self-venting limit: Simpson (1968), Hills (1983), from memory",
    "derived",
    lambda froude, bore, share: share * froude * area_of(bore) * math.sqrt(GRAVITY * bore),
    worked="{2} × {0} × π/4 × ({1})² × √(g × {1})",
)
STOP = Formula(
    "Stops up to",
    "flow",
    "a share of what it passes full as the level comes to where air gets in",
    "the share is assumed, the flow is by Darcy–Weisbach",
    "derived",
    lambda share, full: share * full,
    worked="{0} × {1}",
)
FILL = Formula(
    "Fills in",
    "time",
    "t = ∫ A φ dh ÷ (inflow − spill)",
    "mass balance of the bed",
    "derived",
    worked="{0} at about {1} take",
    found=BY_LEVEL,
)
DRAIN = Formula(
    "Drains in",
    "time",
    "t = ∫ A φ dh ÷ (outflow − inflow)",
    "mass balance of the bed",
    "derived",
    worked="{0} at no more than {1}, less {2} that still come, take",
    found=BY_LEVEL,
)
