"""The numbers of a plan, without judgement. Public: :func:`evaluate`, its result types."""

from bathys.evaluation.duty import BudgetRow, Duty
from bathys.evaluation.evaluate import evaluate
from bathys.evaluation.figures import Figure
from bathys.evaluation.result import Evaluation, LoopResult, Omission, VesselLevels

__all__ = [
    "BudgetRow", "Duty", "Evaluation", "Figure", "LoopResult", "Omission", "VesselLevels",
    "evaluate",
]  # fmt: skip
