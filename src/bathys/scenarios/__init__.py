"""What may happen to a plan, followed through time: things done to it on the way, power cuts at the
worst moments, parts that fail; its periodic state, and what its sump must hold for all that.

Public: :func:`follow` with its :class:`ScenarioStep`; the other modules each have one question.
"""

from bathys.scenarios.scenario import STEPS, ScenarioStep, StepKind, follow
from bathys.simulation.joining import joined_through

__all__ = ["STEPS", "ScenarioStep", "StepKind", "follow", "joined_through"]
