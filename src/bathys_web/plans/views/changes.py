"""What is done: edits, offers taken, undo and redo; a long run stopped."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any
from urllib.parse import urlencode
from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from bathys.edits import EditRefused
from bathys.plan import Plan
from bathys.units import System
from bathys_web.computing.asking import stop as stop_computation
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.add_revision import StaleEdit
from bathys_web.plans.actions.apply_change import Offered, apply_change
from bathys_web.plans.actions.edit_field import edit_field
from bathys_web.plans.actions.lock_part import lock_part
from bathys_web.plans.actions.step_history import go_to as go_to_revision
from bathys_web.plans.actions.step_history import redo as redo_plan
from bathys_web.plans.actions.step_history import undo as undo_plan
from bathys_web.plans.inspector import Row, find_row
from bathys_web.plans.inspector.groups import grouped
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.offers import OFFERS
from bathys_web.plans.pages import (
    SITE,
    units_for,
    workspace_context,
)
from bathys_web.plans.storing import plan_of
from bathys_web.plans.views.own import address_of, base_of, offer_context_of, own_plan

__all__ = ["edit", "go_to", "lock", "redo", "stop", "take", "undo"]


_LONGEST, _KEPT = 20_000, 2_000  # letters


@require_POST
@login_required
def edit(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Edit one field.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The changed parts of the page, or the page
    """
    saved = own_plan(request, key)
    before = saved.current
    path, part = request.POST.get("path", ""), request.POST.get("part", SITE)
    text = " ".join(request.POST.getlist("text"))
    units = units_for(request, plan_of(before))
    row = find_row(plan_of(before), path, units)
    if row is None:
        return _gone(request, saved, part)
    typed = replace(row, text=text, standard=request.POST.get("standard", row.standard)[:80])
    if len(text) > _LONGEST:
        words = "That is longer than any box holds. Its beginning is kept here."
        cut = replace(typed, text=text[:_KEPT], error=words)
        return _refused_page(request, saved, part, cut)

    try:
        head = edit_field(saved, request.user, base_of(request), typed, units)
    except EditRefused as refused:
        return _refused_page(request, saved, part, replace(typed, error=str(refused)))
    except StaleEdit as stale:
        return _stale_page(request, saved, part, _stale(typed, stale.newest))
    context = workspace_context(request, saved, head, part, before)
    context["row"] = find_row(plan_of(head), path, units)
    context["beside"] = _beside(plan_of(head), path, units)
    if not request.htmx:
        return redirect(f"{address_of(saved)}?part={part}")
    taken_off = row.kind == "count" and text.strip() == "0"
    if row.kind in ("switch", "link", "hole", "pick") or taken_off:  # it has other boxes now
        return _whole_workspace(render(request, "plans/_workspace.html", context))
    return _changed(render(request, "plans/_after_edit.html", context))


def _beside(plan: Plan, path: str, units: System) -> list[Row]:
    """Boxes that show the same as the one edited, from another side: a shell's sizes and what it
    holds."""
    way, shape, last = path.partition(".shape.")
    if not shape:
        return []
    names = [*type(plan.vessel(way.split(".")[1]).shape).model_fields, "volume"]
    rows = [find_row(plan, f"{way}.shape.{n}", units) for n in names if n not in (last, "kind")]
    return [r for r in rows if r is not None]


def _changed(response: HttpResponse) -> HttpResponse:
    """Tell the open bench that the plan is another now."""
    response["HX-Trigger-After-Settle"] = "plan-changed"
    return response


def _stale(typed: Row, newest: Revision) -> Row:
    return replace(
        typed,
        notice=f"The plan was changed elsewhere since you opened it ({newest.what_changed}), so "
        "this was not applied. What you typed is kept here.",
    )


def _refused_page(request: SignedInRequest, saved: SavedPlan, part: str, row: Row) -> HttpResponse:
    """A refused row: the row alone for htmx, else the whole page with the row in it."""
    saved.refresh_from_db()
    if request.htmx:
        context = {"row": row, "saved": saved, "head": saved.current, "part": part}
        return render(request, "plans/_row.html", context, status=422)
    return render(request, "plans/plan.html", _with_row(request, saved, part, row), status=422)


def _with_row(request: SignedInRequest, saved: SavedPlan, part: str, row: Row) -> dict[str, Any]:
    """The page's context, with one row as it was typed."""
    context = workspace_context(request, saved, saved.current, part)
    rows = [row if r.path == row.path else r for r in context["rows"]()]
    context["row_groups"] = grouped(rows, context["part"])
    return context


def _stale_page(request: SignedInRequest, saved: SavedPlan, part: str, row: Row) -> HttpResponse:
    """The plan as it stands, with the refused row as it was typed."""
    saved.refresh_from_db()
    context = _with_row(request, saved, part, row)
    page = "plans/_workspace.html" if request.htmx else "plans/plan.html"
    return _whole_workspace(render(request, page, context, status=409))


def _whole_workspace(response: HttpResponse) -> HttpResponse:
    """Tell htmx to swap the whole workspace, whatever asked."""
    response["HX-Retarget"], response["HX-Reswap"] = "#workspace", "outerHTML"
    return _changed(response)


def _gone(request: SignedInRequest, saved: SavedPlan, part: str) -> HttpResponse:
    context = workspace_context(request, saved, saved.current, part)
    context["notice"] = "That field is no longer in this plan; this is the current plan."
    page = "plans/_workspace.html" if request.htmx else "plans/plan.html"
    return _whole_workspace(render(request, page, context, status=422))


Step = Callable[[SavedPlan, Any, int], Revision]


def _new_part(before: Revision, after: Revision) -> str:
    """The part that a change added: the vessel, if one came with others; none if nothing did."""
    old = plan_of(before).names
    return next((id_ for id_ in plan_of(after).names if id_ not in old), "")


def _step(
    request: SignedInRequest, key: UUID, step: Step, *, picks_new: bool = False
) -> HttpResponse:
    """Do it, and show the plan after it; with the part that was added in the inspector, where that
    was asked for."""
    saved = own_plan(request, key)
    before, part, notice = saved.current, request.POST.get("part", SITE), ""
    try:
        head = step(saved, request.user, base_of(request))
    except StaleEdit as stale:
        head = stale.newest
        notice = (
            f"The plan was changed elsewhere ({head.what_changed}), so nothing was done. This is "
            "the current plan."
        )
    except EditRefused as refused:
        head, notice = saved.current, str(refused)
    if picks_new and not notice:
        part = _new_part(before, head) or part
    if not request.htmx:
        if notice:
            messages.warning(request, notice)
        return redirect(f"{address_of(saved)}?part={part}")
    context = workspace_context(request, saved, head, part, before if not notice else None)
    context["notice"] = notice
    page = render(request, "plans/_workspace.html", context, status=409 if notice else 200)
    return _changed(page)


@require_POST
@login_required
def take(request: SignedInRequest, key: UUID, kind: str) -> HttpResponse:
    """Make one of those changes.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    kind : str
        Kind of the change

    Returns
    -------
    HttpResponse
        The changed parts of the page, or the page
    """
    if kind not in OFFERS:
        raise Http404
    saved = own_plan(request, key)
    units, context = units_for(request, plan_of(saved.current)), offer_context_of(request, saved)

    def offered(plan: Plan) -> Offered:
        return OFFERS[kind](plan, request.POST, units, context)

    def step(plan: SavedPlan, user: Any, base: int) -> Revision:
        return apply_change(plan, user, base, offered)

    return _step(request, key, step, picks_new=kind == "change")


@require_POST
@login_required
def lock(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Lock the size of a part, or unlock it.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``part``, and ``locked`` as 1 or 0
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The plan's page, at the part
    """
    saved, part = own_plan(request, key), request.POST.get("part", "")
    lock_part(saved, request.user, part, locked=request.POST.get("locked") == "1")
    return redirect(f"{address_of(saved)}?{urlencode({'part': part})}")


@require_POST
@login_required
def undo(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Back to the revision before.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The changed parts of the page, or the page
    """
    return _step(request, key, undo_plan)


@require_POST
@login_required
def redo(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Forward again.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The changed parts of the page, or the page
    """
    return _step(request, key, redo_plan)


@require_POST
@login_required
def go_to(request: SignedInRequest, key: UUID) -> HttpResponse:
    """To any revision of the list.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The changed parts of the page, or the page
    """
    number = whole_number(request.POST.get("number"))

    def step(plan: SavedPlan, user: Any, base: int) -> Revision:
        return go_to_revision(plan, user, base, number)

    return _step(request, key, step)


@require_POST
@login_required
def stop(request: SignedInRequest, key: UUID, number: int) -> HttpResponse:
    """Give up a computation; its bench is shown with what was asked for, not begun again.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    number : int
        Its number

    Returns
    -------
    HttpResponse
        The bench
    """
    saved = own_plan(request, key)
    stop_computation(number, str(saved.key))
    asked = QueryDict(request.POST.get("query", ""))
    return redirect(f"{reverse('bench', args=[saved.key, 'hours'])}?{asked.urlencode()}")
