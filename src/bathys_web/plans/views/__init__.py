"""Thin views: find the plan, call an action, render."""

from bathys_web.plans.views.benches import bench, beside
from bathys_web.plans.views.changes import edit, go_to, lock, redo, stop, take, undo
from bathys_web.plans.views.demo import keep_demo, sign_out, start_demo
from bathys_web.plans.views.looks import (
    compare,
    explained,
    history,
    offers,
    plan_page,
    play,
    preview,
)
from bathys_web.plans.views.own_data import delete_account, own_data
from bathys_web.plans.views.pieces import inspector, joins, pumps_to_choose, side_view
from bathys_web.plans.views.plans import (
    archive,
    copy,
    delete,
    export,
    import_plan,
    label,
    new_plan,
    picture,
    plan_schema,
    plans_page,
    switch_units,
)
from bathys_web.plans.views.tour import start_tour

__all__ = [
    "archive",
    "bench",
    "beside",
    "compare",
    "copy",
    "delete",
    "delete_account",
    "edit",
    "explained",
    "export",
    "go_to",
    "history",
    "import_plan",
    "inspector",
    "joins",
    "keep_demo",
    "label",
    "lock",
    "new_plan",
    "offers",
    "own_data",
    "picture",
    "plan_page",
    "plan_schema",
    "plans_page",
    "play",
    "preview",
    "pumps_to_choose",
    "redo",
    "side_view",
    "sign_out",
    "start_demo",
    "start_tour",
    "stop",
    "switch_units",
    "take",
    "undo",
]
