"""The formulas that figures are made by, each once."""

import math

from bathys.evaluation.figures import Formula

__all__ = [
    "CYCLE", "DRAIN_FILL", "ENERGY", "HEAD_OVER", "HOLD", "LEVEL_LOW", "LEVEL_REST",
    "LOSS", "PART_FULL_VELOCITY", "PUMP_FLOW", "PUMP_HEAD", "REYNOLDS", "RUN_FLOW",
    "SIPHON_INFLOW", "SPARE",
    "TURNOVER", "VELOCITY",
]  # fmt: skip

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
)
PUMP_HEAD = Formula("Head the pump makes", "head", "H(Q) of its curve at its flow",
                    "the pump’s own curve", "derived",
    worked='H({0})',
)  # fmt: skip
RUN_FLOW = Formula(
    "Flow",
    "flow",
    _BALANCE,
    _PIPES,
    "published",
    worked="heads balance at every joint; here {1} of {0} bore carry a flow",
)
VELOCITY = Formula(
    "Velocity", "speed", "V = Q ÷ (π/4 D²)", "continuity", "derived",
    lambda flow, bore: flow / (0.25 * math.pi * bore**2),
    worked='{0} ÷ (π/4 × ({1})²)',
)  # fmt: skip
PART_FULL_VELOCITY = Formula(
    "Velocity", "speed", "V = Q ÷ area of the water in the drain", "continuity", "derived",
    lambda flow, wetted: flow / wetted,
    worked='{0} ÷ {1}',
)  # fmt: skip
REYNOLDS = Formula(
    "Reynolds number", "reynolds", "Re = V 4R ÷ ν, which is V D ÷ ν in a full pipe", "definition",
    "published",
    lambda speed, bore, viscosity: speed * bore / viscosity,
    worked='{0} × {1} ÷ {2}',
)  # fmt: skip
LOSS = Formula(
    "Head lost", "head", "h = friction + fittings + valve + velocity", _PIPES, "published",
    lambda *heads: sum(heads),
    worked='+',
)  # fmt: skip
HEAD_OVER = Formula(
    "Level over its crest", "length", "h = level − crest", "inlet control: FHWA HDS-5 (2012); "
    "rims: shaft-spillway practice (memory)", "published",
    lambda level, crest: level - crest,
    worked='{0} − {1}',
)  # fmt: skip
DRAIN_FILL = Formula(
    "Depth in the drain", "percent", "Q = A R^(2/3) √S ÷ n, n = 0.010", "Manning (1891)",
    "published",
    worked='{0} down a fall of {2} in {1} fills it',
)  # fmt: skip
SPARE = Formula(
    "Flow it could pass", "flow", "the flow that brings the level upstream to the freeboard",
    "inlet control FHWA HDS-5; full bore Darcy–Weisbach", "published",
    worked='with {0} of bore and what stands over it, at most',
)  # fmt: skip
TURNOVER = Formula(
    "Turnover", "per_hour", "mean flow ÷ water in the vessel", "limits are common practice",
    "common practice", lambda flow, volume: flow / volume,
    worked='{0} ÷ {1}',
)  # fmt: skip
HOLD = Formula(
    "Hold time", "time", "water in the vessel ÷ mean flow", "arithmetic", "derived",
    lambda volume, flow: volume / flow,
    worked='{0} ÷ {1}',
)  # fmt: skip
CYCLE = Formula(
    "Siphon cycle", "time", "t = ∫ A φ dh ÷ (inflow − outflow), from break to start and back",
    "mass balance of the bed", "derived",
    worked='filling {2} + draining {3}',
)  # fmt: skip
SIPHON_INFLOW = Formula(
    "Inflow the siphon gets", "flow",
    "start: Q = Fr (π/4) d² √(g d); stop: a share of the full flow at the intake",
    "self-venting limit: Simpson (1968), Hills (1983), from memory; the share that breaks it "
    "is assumed", "derived",
    worked="start: {1} × π/4 × ({0})² × √(9.81 m/s² × {0}); stop: {2} of what runs full from "
    "{3} + {4} of fall; it gets",
)  # fmt: skip
LEVEL_LOW = Formula(
    "At its lowest", "length", "all the water − what the other vessels and the pipes hold",
    "mass balance", "derived",
    worked='what the others leave of {0}, as depth',
)  # fmt: skip
LEVEL_REST = Formula(
    "After a power cut", "length", "all the water − what stays in the other vessels",
    "mass balance", "derived",
    worked='what comes back to {0}, as depth',
)  # fmt: skip
ENERGY = Formula(
    "Power", "power", "kWh a year = W × 8760 h × share of the time ÷ 1000; "
    "wire-to-water efficiency = ρ g Q H ÷ P", "arithmetic", "derived",
    worked='8760 h × {2} of the time, over {1} of head,',
)  # fmt: skip
