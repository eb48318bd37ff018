"""The plan document. Public: :class:`Plan`, :func:`load_plan`, :func:`dump_plan`,
:func:`differences`."""

from bathys.plan.differences import Difference, differences, only_places_differ
from bathys.plan.filing import from_file, to_file
from bathys.plan.hashing import document_hash, physics_hash
from bathys.plan.loading import BadPlan, Fault, dump_plan, load_plan, plan_from_data, schema
from bathys.plan.model import GROUPS, Plan

__all__ = [
    "GROUPS",
    "BadPlan",
    "Difference",
    "Fault",
    "Plan",
    "differences",
    "document_hash",
    "dump_plan",
    "from_file",
    "load_plan",
    "only_places_differ",
    "physics_hash",
    "plan_from_data",
    "schema",
    "to_file",
]
