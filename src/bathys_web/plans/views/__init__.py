"""Thin views: find the plan, call an action, render."""

from bathys_web.plans.views.changes import edit, go_to, redo, stop, take, undo
from bathys_web.plans.views.looks import (
    bench,
    compare,
    explained,
    history,
    inspector,
    offers,
    plan_page,
    play,
    preview,
)
from bathys_web.plans.views.shelf import (
    copy,
    delete,
    export,
    import_plan,
    new_plan,
    picture,
    plan_schema,
    shelf,
    switch_units,
)

__all__ = [
    "bench",
    "compare",
    "copy",
    "delete",
    "edit",
    "explained",
    "export",
    "go_to",
    "history",
    "import_plan",
    "inspector",
    "new_plan",
    "offers",
    "picture",
    "plan_page",
    "plan_schema",
    "play",
    "preview",
    "redo",
    "shelf",
    "stop",
    "switch_units",
    "take",
    "undo",
]
