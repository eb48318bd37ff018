"""The plan document. Public: :class:`Plan`, :func:`load_plan`, :func:`dump_plan`, edits."""

from bathys.plan.editing import (
    Change,
    Edit,
    EditRefused,
    apply_edits,
    set_bore,
    set_fitting_count,
    set_value,
)
from bathys.plan.loading import BadPlan, Fault, dump_plan, load_plan, plan_from_data, schema
from bathys.plan.model import GROUPS, Plan
from bathys.plan.switching import SWITCHES, switch_kind

__all__ = [
    "GROUPS", "SWITCHES", "BadPlan", "Change", "Edit", "EditRefused", "Fault", "Plan",
    "apply_edits", "dump_plan", "load_plan", "plan_from_data", "schema", "set_bore",
    "set_fitting_count", "set_value", "switch_kind",
]  # fmt: skip
