"""The plan document. Public: :class:`Plan`, :func:`load_plan`, :func:`dump_plan`, edits."""

from bathys.plan.differences import Difference, differences
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
from bathys.plan.operations import (
    ADDABLE,
    add_part,
    connect,
    duplicate_part,
    move_along,
    raise_part,
    remove_part,
)
from bathys.plan.switching import SWITCHES, switch_kind

__all__ = [
    "ADDABLE", "GROUPS", "SWITCHES", "BadPlan", "Change", "Difference", "Edit", "EditRefused",
    "Fault", "Plan", "add_part", "apply_edits", "connect", "differences", "dump_plan",
    "duplicate_part", "load_plan", "move_along", "plan_from_data", "raise_part", "remove_part",
    "schema", "set_bore", "set_fitting_count", "set_value", "switch_kind",
]  # fmt: skip
