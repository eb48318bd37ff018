"""Blocks and timber at hand, and the stands that are made up of them."""

import re
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from bathys.documents import cell_text, stands_table
from bathys.edits import Edit, apply_edits
from bathys.plan import Plan
from bathys.units import UnreadableQuantity, own_system, read, show_tape
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.views.own import own_plan, refusal_of

__all__ = ["stands"]

_LONGEST = 200
_USUAL = {"metric": (0.1, 0.15), "us": (0.1016, 0.1524)}  # heights of blocks [m]


@require_http_methods(["GET", "POST"])
@login_required
def stands(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The blocks at hand and what is made up of them; posted, the blocks are kept.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page; with what was typed, and why it cannot be so, where it cannot
    """
    saved = own_plan(request, key)
    head = saved.current
    if request.method == "GET":
        return _page(request, saved, head)
    units = units_for(request, plan_of(head))
    typed = request.POST.get("blocks", "")[:_LONGEST]
    try:
        words = [word.strip() for word in re.split(r"[;\n]|,\s", typed) if word.strip()]
        heights = sorted({read(word, "length", units) for word in words}, reverse=True)
    except UnreadableQuantity as error:
        return _page(request, saved, head, str(error))

    def edit(plan: Plan) -> tuple[Plan, str]:
        return apply_edits(plan, [Edit("site.blocks", heights)]), "Blocks and timber at hand"

    refused = refusal_of(request, saved, edit)
    return redirect(request.path) if refused is None else _page(request, saved, *refused)


def _page(
    request: SignedInRequest, saved: SavedPlan, head: Revision, error: str = "", status: int = 422
) -> HttpResponse:
    found = assessment_of(head).evaluation
    units = units_for(request, found.plan)
    table = stands_table(found, units)
    known = "; ".join(show_tape(block, units) for block in found.plan.site.blocks)
    context = {
        "saved": saved,
        "head": head,
        "plan": found.plan,
        "units": units,
        "standing": plan_statuses_of([head])[0],
        "typed": request.POST.get("blocks", "")[:_LONGEST] if error else known,
        "error": error,
        "example": "; ".join(show_tape(b, units) for b in _USUAL[own_system(units, "length")]),
        "table": table,
        "rows": [
            [(h, cell_text(c, units)) for h, c in zip(table.heads, row, strict=True)]
            for row in table.rows
        ],
        "has_stands": any(v.floor_height > 0.0 for v in found.plan.vessels),
    }
    return render(request, "plans/stands.html", context, status=status if error else 200)
