"""The numbers of a plan, without judgement. Public: :func:`evaluate` and
:func:`run_resilience`, and their result types."""

from bathys.evaluation.beds import CYCLE_DOUBT, BedResult
from bathys.evaluation.delivery import BudgetRow, Delivery, grade_line
from bathys.evaluation.duty import Duty
from bathys.evaluation.evaluate import evaluate
from bathys.evaluation.falls import Fall, falls_of
from bathys.evaluation.loads import SHELL_MASS, full_mass
from bathys.evaluation.resilience import ResilienceRun, run_resilience
from bathys.evaluation.result import Evaluation, Omission
from bathys.evaluation.runs import GravityResult, RunResult
from bathys.evaluation.vessels import VesselLevels, VesselResult

__all__ = [
    "CYCLE_DOUBT",
    "SHELL_MASS",
    "BedResult",
    "BudgetRow",
    "Delivery",
    "Duty",
    "Evaluation",
    "Fall",
    "GravityResult",
    "Omission",
    "ResilienceRun",
    "RunResult",
    "VesselLevels",
    "VesselResult",
    "evaluate",
    "falls_of",
    "full_mass",
    "grade_line",
    "run_resilience",
]
