"""What is measured and done once a layout runs, and what it says beside the plan.

Public: :data:`ENTRY_KINDS`, :func:`read_entry`, :func:`expected_of`, :func:`held_against`,
:func:`trend_of`, :func:`ewma_news`, :func:`due_jobs`, :func:`cycled_by_tests`,
:func:`stock_of`, :func:`rotas_kept`.
"""

from bathys.fieldlog.away import away_days
from bathys.fieldlog.comparing import (
    TRIAL_MEASURES,
    Comparison,
    Condition,
    TrialMeasure,
    compare,
    conditions_of,
    replicates_needed,
    samples_of,
    welch,
)
from bathys.fieldlog.due import DueJob, brought_forward, due_jobs
from bathys.fieldlog.entries import EntryField, EntryKind
from bathys.fieldlog.expecting import (
    Expected,
    Measured,
    Verdict,
    expected_of,
    held_against,
    measured_of,
)
from bathys.fieldlog.kinds import ENTRY_KINDS
from bathys.fieldlog.logged import Logged
from bathys.fieldlog.reading import BadEntry, FishBounds, fish_bounds_of, read_entry
from bathys.fieldlog.rota import RotaKept, rotas_kept
from bathys.fieldlog.season import Grown, Harvest, Season, season_of
from bathys.fieldlog.stock import Stock, stock_edits, stock_of
from bathys.fieldlog.trends import EwmaPoint, Trend, ewma_news, trend_of
from bathys.fieldlog.trial_days import TrialDays, day_of_reading, due_parts, trial_days
from bathys.fieldlog.water_tests import Cycled, CycledStage, WaterTest, cycled_by_tests

__all__ = [
    "ENTRY_KINDS",
    "TRIAL_MEASURES",
    "BadEntry",
    "Comparison",
    "Condition",
    "Cycled",
    "CycledStage",
    "DueJob",
    "EntryField",
    "EntryKind",
    "EwmaPoint",
    "Expected",
    "FishBounds",
    "Grown",
    "Harvest",
    "Logged",
    "Measured",
    "RotaKept",
    "Season",
    "Stock",
    "Trend",
    "TrialDays",
    "TrialMeasure",
    "Verdict",
    "WaterTest",
    "away_days",
    "brought_forward",
    "compare",
    "conditions_of",
    "cycled_by_tests",
    "day_of_reading",
    "due_jobs",
    "due_parts",
    "ewma_news",
    "expected_of",
    "fish_bounds_of",
    "held_against",
    "measured_of",
    "read_entry",
    "replicates_needed",
    "rotas_kept",
    "samples_of",
    "season_of",
    "stock_edits",
    "stock_of",
    "trend_of",
    "trial_days",
    "welch",
]
