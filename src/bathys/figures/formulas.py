"""The formulas that figures are made by, each once."""

import math

from bathys.figures.figure import Formula
from bathys.figures.found_by import AT_REST, BALANCED, BY_LAYER
from bathys.physics import GRAVITY

__all__ = [
    "BAFFLE_SPEED",
    "DRAIN_FILL",
    "EFFICIENCY",
    "ENERGY",
    "FALL",
    "FILTER_LOSS",
    "HEAD_OVER",
    "HOLD",
    "HOLDS",
    "LABEL_SHARE",
    "LEVEL",
    "LEVEL_LOW",
    "LEVEL_OFF",
    "LEVEL_REST",
    "LIFT",
    "LOSS",
    "MOVED_AT",
    "PART_FULL_VELOCITY",
    "PUMP_FLOW",
    "PUMP_HEAD",
    "RESERVE",
    "REYNOLDS",
    "RUNS",
    "RUN_FLOW",
    "SHUT_OFF",
    "SPARE",
    "THROUGH",
    "TOTAL_WATER",
    "TURNOVER",
    "VALVE_LOSS",
    "VALVE_POWER",
    "VELOCITY",
]

_PIPES = "Darcy–Weisbach; Colebrook–White (1939); fittings Crane TP-410; the pump’s own curve"
_BALANCE = (
    "pump head H(Q) = lift + Σ f (L/D) V²/2g + Σ K V²/2g along every way, and as much out of each "
    "junction as into it"
)
PUMP_FLOW = Formula(
    "Pumped flow",
    "flow",
    _BALANCE,
    _PIPES,
    "published",
    worked="head made {1} = lift {0} + {2} lost on the way, which holds at a flow",
    found=BALANCED,
)
PUMP_HEAD = Formula(
    "Head the pump makes",
    "head",
    "H(Q) of its curve at its flow",
    "the pump’s own curve",
    "derived",
    worked="H({0})",
    found="reading its curve",
)
RUN_FLOW = Formula(
    "Flow",
    "flow",
    _BALANCE,
    _PIPES,
    "published",
    worked="heads balance at every joint; here {1} of {0} bore carry a flow",
    found=BALANCED,
)
VELOCITY = Formula(
    "Velocity",
    "speed",
    "V = Q ÷ (π/4 D²)",
    "continuity",
    "derived",
    lambda flow, bore: flow / (0.25 * math.pi * bore**2),
    worked="{0} ÷ (π/4 × ({1})²)",
)
PART_FULL_VELOCITY = Formula(
    "Velocity",
    "speed",
    "V = Q ÷ area of the water in the drain",
    "continuity",
    "derived",
    lambda flow, wetted: flow / wetted,
    worked="{0} ÷ {1}",
)
REYNOLDS = Formula(
    "Reynolds number",
    "reynolds",
    "Re = V 4R ÷ ν, which is V D ÷ ν in a full pipe",
    "definition",
    "published",
    lambda speed, bore, viscosity: speed * bore / viscosity,
    worked="{0} × {1} ÷ {2}",
)
LOSS = Formula(
    "Head lost",
    "head",
    "h = friction + fittings + valve + velocity",
    _PIPES,
    "published",
    lambda *heads: sum(heads),
    worked="+",
)
HEAD_OVER = Formula(
    "Level over its crest",
    "length",
    "h = level − crest",
    "inlet control: FHWA HDS-5 (2012); rims: shaft-spillway practice (memory)",
    "published",
    lambda level, crest: level - crest,
    worked="{0} − {1}",
)
DRAIN_FILL = Formula(
    "Depth in the drain",
    "percent",
    "Q = A R^(2/3) √S ÷ n, n = 0.010",
    "Manning (1891)",
    "published",
    worked="{0} down a fall of {2} in {1} fills it",
    found="solving Manning’s formula for the depth",
)
SPARE = Formula(
    "Flow it could pass",
    "flow",
    "the flow at which the level upstream reaches the freeboard",
    "inlet control FHWA HDS-5; full bore Darcy–Weisbach",
    "published",
    worked="with {0} of bore and what stands over it, at most",
    found="searching for that flow",
)
TOTAL_WATER = Formula(
    "Water in the system",
    "volume",
    "all the water in its vessels with the pumps off, and in the pipes that stay full",
    "mass balance",
    "derived",
    found="adding up the vessels",
)
RESERVE = Formula(
    "Lasts without a hand",
    "time",
    "(water over what the pump needs) ÷ (dries off + is taken out − comes) a day",
    "derived",
    "derived",
    lambda volume, dries, taken, comes: volume / (dries + taken - comes) * 86400.0,
    worked="{0} ÷ ({1} + {2} − {3}) a day",
)
MOVED_AT = Formula(
    "Moves each time at that setting",
    "volume",
    "water between the crest and the intake",
    "derived",
    "derived",
    found="measuring the bed between the two levels",
)
BAFFLE_SPEED = Formula(
    "Velocity under the plates",
    "speed",
    "flow ÷ (gap × width of a plate)",
    "continuity",
    "derived",
    lambda flow, gap, width: flow / (gap * width),
    worked="{0} ÷ ({1} × {2})",
)
TURNOVER = Formula(
    "Turnover",
    "per_hour",
    "mean flow ÷ water in the vessel",
    "limits are common practice",
    "common practice",
    lambda flow, volume: flow / volume,
    worked="{0} ÷ {1}",
)
HOLD = Formula(
    "Hold time",
    "time",
    "water in the vessel ÷ mean flow",
    "arithmetic",
    "derived",
    lambda volume, flow: volume / flow,
    worked="{0} ÷ {1}",
)
LEVEL_LOW = Formula(
    "At its lowest",
    "length",
    "all the water − what the other vessels and the pipes hold",
    "mass balance",
    "derived",
    worked="what the others leave of {0}, as depth",
    found="sharing out all the water of the loop",
)
LEVEL_REST = Formula(
    "After a power cut",
    "length",
    "all the water − what stays in the other vessels",
    "mass balance",
    "derived",
    worked="water that returns to {0}, as depth",
    found=AT_REST,
)
ENERGY = Formula(
    "Power",
    "power",
    "kWh a year = W × 8760 h × share of the time ÷ 1000; wire-to-water efficiency = ρ g Q H ÷ P",
    "arithmetic",
    "derived",
    worked="8760 h × {2} of the time, over {1} of head,",
    found="its label, or its own curve of watts",
)
SHUT_OFF = Formula(
    "Lifts nothing over",
    "head",
    "H(0) of its curve × (dial × wear)²",
    "affinity laws; the pump’s own curve",
    "published",
    lambda top, dial, wear: top * (dial * wear) ** 2,
    worked="{0} × ({1} × {2})²",
)
LABEL_SHARE = Formula(
    "Share of the label’s flow",
    "percent",
    "flow ÷ flow at no lift",
    "arithmetic",
    "derived",
    lambda flow, label: flow / label,
    worked="{0} ÷ {1}",
)
EFFICIENCY = Formula(
    "Share of the power that leaves in the water",
    "percent",
    "η = ρ g Q H ÷ P",
    "hydraulic power, any pump text",
    "published",
    lambda useful, drawn: useful / drawn,
    worked="{0} ÷ {1}",
)
VALVE_POWER = Formula(
    "Power that valves burn",
    "power",
    "P × Σ Q h of the valves ÷ Q H of the pump",
    "arithmetic",
    "derived",
    lambda power, share: power * share,
    worked="{0} × {1}",
)
RUNS = Formula(
    "Runs",
    "percent",
    "time on ÷ time on and off, of its clock; with a float, as much as its vessel receives",
    "mass balance",
    "derived",
    worked="{1} in the mean, out of {0}",
    found="its clock, or the balance of its vessel",
)
LEVEL = Formula(
    "Level",
    "length",
    "outflow at that level equals inflow",
    "balance of the whole plan",
    "derived",
    worked="{0} come, and as much leaves with the water at",
    found=BALANCED,
)
LEVEL_OFF = Formula(
    "With the pumps off",
    "length",
    "drained to the lowest way out; returned water, in the vessel that receives it",
    "mass balance",
    "derived",
    worked="{0} left in it stand at",
    found=AT_REST,
)
HOLDS = Formula(
    "Water in it",
    "volume",
    "V = ∫ A φ dh, φ the voids where there are media",
    "geometry of its shell",
    "derived",
    worked="{0} deep over {1}, less what media and fittings take,",
    found=BY_LAYER,
)
THROUGH = Formula(
    "Flow through it",
    "flow",
    "inflow of all its runs, rests counted",
    "mass balance",
    "derived",
    lambda *flows: sum(flows),
    worked="+",
)
FILTER_LOSS = Formula(
    "Lost in the filter",
    "length",
    "h = a Q + b Q², a and b of the clean filter over (1 − load)³",
    "fibres Davies 1952, pieces Ergun 1952, screens Idelchik (memory); how waste fills it is "
    "assumed",
    "published",
    found="working out its resistance as it is loaded",
)
VALVE_LOSS = Formula(
    "Lost in the valve",
    "length",
    "h = K V²/2g",
    "K by the handle’s angle or the gate’s opening, Weisbach’s tables (memory)",
    "published",
    lambda loss, speed: loss * speed**2 / (2.0 * GRAVITY),
    worked="{0} × ({1})² ÷ 2g",
)
FALL = Formula(
    "Fall",
    "length",
    "level it leaves − level it comes to, or the run’s end over that",
    "geometry",
    "derived",
    lambda up, down: up - down,
    worked="{0} − {1}",
)
LIFT = Formula(
    "Lift",
    "length",
    "level it comes to, or the run’s end over that − level it leaves",
    "geometry",
    "derived",
    lambda up, down: down - up,
    worked="{1} − {0}",
)
