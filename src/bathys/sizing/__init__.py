"""Choosing sizes and settings.

Public: :func:`balance_valves` (valves for wanted flows), :func:`bore_options`, :func:`gains`
(which change gains most), :func:`search_pumps`, :func:`angle_for`, :func:`design_siphon`,
:func:`design_timer`, :func:`system_curves` (what the pipes ask of a pump), :func:`try_variant` (a
siphon built a little otherwise).
"""

from bathys.sizing.balancing import (
    MODES,
    Mode,
    Setting,
    Settings,
    balance_valves,
    modes_for,
    wanted_flows,
)
from bathys.sizing.bores import BoreOption, bore_options, smallest_drain, smallest_pressed
from bathys.sizing.branching import add_with_pipes
from bathys.sizing.gains import Gain, gains
from bathys.sizing.pumps import BASIS, Candidate, PumpSearch, flow_asked, pump_edits, search_pumps
from bathys.sizing.siphon_variants import (
    Outcome,
    SiphonVariant,
    Tried,
    outcome_of,
    sizes_for,
    try_variant,
    variant_edits,
    variant_of,
)
from bathys.sizing.siphons import (
    SiphonAsk,
    SiphonChoice,
    SiphonDesign,
    ask_of_bed,
    choice_edits,
    design_siphon,
)
from bathys.sizing.system_curve import PumpLine, SystemCurve, pump_line, system_curves
from bathys.sizing.throttling import angle_for, head_margins
from bathys.sizing.timers import TimerAsk, TimerChoice, TimerDesign, design_timer

__all__ = [
    "BASIS",
    "MODES",
    "BoreOption",
    "Candidate",
    "Gain",
    "Mode",
    "Outcome",
    "PumpLine",
    "PumpSearch",
    "Setting",
    "Settings",
    "SiphonAsk",
    "SiphonChoice",
    "SiphonDesign",
    "SiphonVariant",
    "SystemCurve",
    "TimerAsk",
    "TimerChoice",
    "TimerDesign",
    "Tried",
    "add_with_pipes",
    "angle_for",
    "ask_of_bed",
    "balance_valves",
    "bore_options",
    "choice_edits",
    "design_siphon",
    "design_timer",
    "flow_asked",
    "gains",
    "head_margins",
    "modes_for",
    "outcome_of",
    "pump_edits",
    "pump_line",
    "search_pumps",
    "sizes_for",
    "smallest_drain",
    "smallest_pressed",
    "system_curves",
    "try_variant",
    "variant_edits",
    "variant_of",
    "wanted_flows",
]
