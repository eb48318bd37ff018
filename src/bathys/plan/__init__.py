"""The plan document. Public: :class:`Plan`, :func:`load_plan`, :func:`dump_plan`, edits."""

from bathys.plan.editing import Change, EditRefused, set_bore, set_fitting_count, set_value
from bathys.plan.loading import BadPlan, Fault, dump_plan, load_plan, plan_from_data, schema
from bathys.plan.model import Plan

__all__ = [
    "BadPlan", "Change", "EditRefused", "Fault", "Plan", "dump_plan", "load_plan",
    "plan_from_data", "schema", "set_bore", "set_fitting_count", "set_value",
]  # fmt: skip
