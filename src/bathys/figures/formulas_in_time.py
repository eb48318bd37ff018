"""The formulas of what only time shows: claims on a sump, power cuts, beds together."""

from bathys.figures.figure import Formula
from bathys.figures.found_by import BY_LAYER, FOLLOWED

__all__ = [
    "CLAIMS_IN_ALL",
    "CLAIMS_SPARE",
    "CLAIM_BACK",
    "CLAIM_COVER",
    "CLAIM_DRY",
    "CLAIM_RAIN",
    "CLAIM_SCHEDULE",
    "CLAIM_START",
    "CLAIM_SWING",
    "CUT_DEPTH",
    "CUT_HOLDS",
    "CUT_SHARE",
    "CYCLE_TOGETHER",
    "MOVES_TOGETHER",
]

CLAIM_COVER = Formula(
    "Water kept over the pump’s inlet",
    "volume",
    "what stands up to the inlet and its least cover",
    "the least cover is common practice",
    "common practice",
    worked="what it holds up to {0} + {1}",
    found=BY_LAYER,
)
CLAIM_START = Formula(
    "What the first start draws",
    "volume",
    "fall under its usual low until water comes back",
    "followed through time, from rest",
    "derived",
    worked="its fall from {0} to {1}",
    found=FOLLOWED,
)
CLAIM_DRY = Formula(
    "What dries off while you are away",
    "volume",
    "open water × depth a day × days",
    "arithmetic",
    "derived",
    lambda area, depth, days: area * depth * days,
    worked="{0} × {1} × {2}",
)
CLAIM_SWING = Formula(
    "The beds’ swing",
    "volume",
    "the greater of what was seen and of all beds full at once and then all empty",
    "followed through time",
    "derived",
    max,
    worked="the greater of {0} and {1}",
)
CLAIM_SCHEDULE = Formula(
    "What its schedules add and take",
    "volume",
    "highest − lowest of what transfers have added, over two of the longest turns, less what "
    "they add for good",
    "sums by the clock",
    "derived",
    worked="turn by turn, of",
    found="adding up its schedules, turn by turn",
)
CLAIM_BACK = Formula(
    "What a power cut adds over its usual high",
    "volume",
    "rise over its usual high after a power cut at the worst moment",
    "followed through time",
    "derived",
    worked="its rise from {0} to {1}",
    found=FOLLOWED,
)
CLAIM_RAIN = Formula(
    "The greatest rainfall",
    "volume",
    "what is open to the sky × depth of the storm",
    "arithmetic",
    "derived",
    lambda area, depth: area * depth,
    worked="{0} × {1}",
)
CLAIMS_IN_ALL = Formula(
    "All claims on it",
    "volume",
    "one on the other, since they may all come at once",
    "mass balance",
    "derived",
    lambda *claims: sum(claims),
    worked="+",
)
CLAIMS_SPARE = Formula(
    "To spare",
    "volume",
    "what it holds up to its freeboard − all claims",
    "mass balance",
    "derived",
    lambda holds, least: holds - least,
    worked="{0} − {1}",
)
CUT_DEPTH = Formula(
    "Depth when all stands still",
    "length",
    "dV/dt = Σ Q in − Σ Q out from the moment the power "
    "fails until no water moves; the level at which its shell holds what is left",
    "followed through time; level from volume by its shell and media",
    "derived",
    worked="{2} in the end, of {1} that stood {0} deep, stand",
    found=FOLLOWED,
)
CUT_HOLDS = Formula(
    "Water it holds in the end",
    "volume",
    "what it held + what came in − what left",
    "followed through time, mass balance",
    "derived",
    lambda held, change: held + change,
    worked="{0} + {1}",
)
CUT_SHARE = Formula(
    "Of what it held",
    "percent",
    "water in the end ÷ water when the power failed",
    "arithmetic",
    "derived",
    lambda left, held: left / held,
    worked="{0} ÷ {1}",
)
CYCLE_TOGETHER = Formula(
    "Cycle as the beds run together",
    "time",
    "mean time from start to start, once the plan repeats itself",
    "followed through time",
    "derived",
    worked="{1} filling and {2} draining, over {0} starts, make",
    found=FOLLOWED,
)
MOVES_TOGETHER = Formula(
    "Moves each time",
    "volume",
    "water its tail carries from start to break, in the mean",
    "followed through time, mass balance",
    "derived",
    worked="counted over {0} starts",
    found=FOLLOWED,
)
