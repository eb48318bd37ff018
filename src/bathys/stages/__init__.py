"""A layout that is built in stages: each stage worked out by itself, and what could follow.

Public: :func:`stages_of`, :func:`plan_at_stage`, :func:`stage_results`, :func:`more_of`.
"""

from bathys.stages.growing import More, more_of
from bathys.stages.staging import StageResult, plan_at_stage, stage_results, stages_of

__all__ = ["More", "StageResult", "more_of", "plan_at_stage", "stage_results", "stages_of"]
