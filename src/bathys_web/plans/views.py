"""Thin views: find the plan, call an action, render."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any
from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.edits import EditRefused
from bathys.parts.pumps import CatalogPump
from bathys.pipeline import explain
from bathys.plan import BadPlan, Fault, Plan, dump_plan, load_plan, schema
from bathys.plan.loading import LARGEST_FILE
from bathys.units import FAMILIES, SYSTEMS, mixed
from bathys_web.plans.actions.add_revision import StaleEdit
from bathys_web.plans.actions.apply_change import Offered, apply_change
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.delete_plan import delete_plan
from bathys_web.plans.actions.edit_field import edit_field
from bathys_web.plans.actions.step_history import redo as redo_plan
from bathys_web.plans.actions.step_history import undo as undo_plan
from bathys_web.plans.benches import BENCHES, Ask, benches_of
from bathys_web.plans.benches.hours import play as play_hours
from bathys_web.plans.comparing import compare_page
from bathys_web.plans.ghost import ghost_of
from bathys_web.plans.inspector import Row, find_row
from bathys_web.plans.models import OwnPump, Revision, SavedPlan
from bathys_web.plans.offers import LISTS, OFFERS
from bathys_web.plans.pages import (
    SITE,
    inspector_context,
    shown_figure,
    units_for,
    workspace_context,
)
from bathys_web.plans.starters import LAYOUTS, starter, starters
from bathys_web.plans.storing import assessment_of, plan_of

__all__ = [
    "bench", "compare", "delete", "edit", "explained", "export", "ghost", "import_plan",
    "inspector", "new_plan",
    "offers", "plan_page", "plan_schema", "play", "redo", "shelf", "switch_units", "take", "undo",
]  # fmt: skip


def _own_plan(request: HttpRequest, key: UUID) -> SavedPlan:
    """The visitor's plan of this key; 404 if it is anybody else's."""
    plans = SavedPlan.objects.select_related("head")
    return get_object_or_404(plans, key=key, owner=request.user)


def _base(request: HttpRequest) -> int:
    text = request.POST.get("base", "")
    return int(text) if text.isdigit() and len(text) < 9 else 0


@require_GET
@login_required
def shelf(request: HttpRequest) -> HttpResponse:
    """All of the visitor's plans."""
    return _shelf(request)


def _shelf(request: HttpRequest, faults: list[Fault] | None = None) -> HttpResponse:
    rows = []
    for saved in SavedPlan.objects.filter(owner=request.user).select_related("head"):
        assert saved.head is not None  # noqa: S101 - every plan is made with a revision
        assessment = assessment_of(saved.head)
        rows.append({"saved": saved, "plan": assessment.evaluation.plan,
                     "counts": assessment.counts, "is_sound": assessment.is_sound})  # fmt: skip
    context = {"rows": rows, "faults": faults or [], "units": units_for(request),
               "starters": starters()}  # fmt: skip
    return render(request, "plans/shelf.html", context, status=422 if faults else 200)


@require_POST
@login_required
def new_plan(request: HttpRequest) -> HttpResponse:
    """Start a plan from a layout."""
    key = request.POST.get("layout", "stacked-pair")
    if key not in LAYOUTS:
        raise Http404
    words = key.replace("-", " ")
    saved = create_plan(request.user, starter(key), f"started from the {words}")
    return redirect("plan", key=saved.key)


@require_POST
@login_required
def import_plan(request: HttpRequest) -> HttpResponse:
    """Put a plan file on the shelf."""
    upload = request.FILES.get("file")
    if upload is None:
        return _shelf(request, [Fault("file", "Choose a plan file first.")])
    if upload.size > LARGEST_FILE:
        return _shelf(request, [Fault("file", "This file is larger than any plan (2 MB).")])
    try:
        plan = load_plan(upload.read())
    except BadPlan as bad:
        return _shelf(request, bad.faults)
    saved = create_plan(request.user, plan, "imported from a file")
    return redirect("plan", key=saved.key)


@require_GET
@login_required
def plan_page(request: HttpRequest, key: UUID) -> HttpResponse:
    """The plan page."""
    saved = _own_plan(request, key)
    context = workspace_context(request, saved, saved.head, request.GET.get("part", SITE))
    return render(request, "plans/plan.html", context)


@require_GET
@login_required
def inspector(request: HttpRequest, key: UUID) -> HttpResponse:
    """One part in the inspector."""
    saved = _own_plan(request, key)
    part = request.GET.get("part", SITE)
    if not request.htmx:
        return redirect(f"{_address(saved)}?part={part}")
    plan = plan_of(saved.head)
    context = inspector_context(plan, part, units_for(request, plan))
    return render(request, "plans/_inspector.html", {**context, "saved": saved, "head": saved.head})


def _address(saved: SavedPlan) -> str:
    return f"/plans/{saved.key}/"


@require_POST
@login_required
def edit(request: HttpRequest, key: UUID) -> HttpResponse:
    """Edit one field."""
    saved = _own_plan(request, key)
    path, part = request.POST.get("path", ""), request.POST.get("part", SITE)
    text = " ".join(request.POST.getlist("text"))
    units = units_for(request, plan_of(saved.head))
    row = find_row(plan_of(saved.head), path, units)
    if row is None:
        return _gone(request, saved, part)
    typed = replace(row, text=text, standard=request.POST.get("standard", row.standard))

    try:
        head = edit_field(saved, request.user, _base(request), typed, units)
    except EditRefused as refused:
        return _refused_page(request, saved, part, replace(typed, error=str(refused)))
    except StaleEdit as stale:
        return _stale_page(request, saved, part, _stale(typed, stale.newest))
    context = workspace_context(request, saved, head, part)
    context["row"] = find_row(plan_of(head), path, units)
    if not request.htmx:
        return redirect(f"{_address(saved)}?part={part}")
    if row.kind in ("switch", "link", "hole"):  # the part has other boxes now
        return _whole_workspace(render(request, "plans/_workspace.html", context))
    return _changed(render(request, "plans/_after_edit.html", context))


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


def _refused_page(request: HttpRequest, saved: SavedPlan, part: str, row: Row) -> HttpResponse:
    """A refused row: the row alone for htmx, else the whole page with the row in it."""
    saved.refresh_from_db()
    if request.htmx:
        context = {"row": row, "saved": saved, "head": saved.head, "part": part}
        return render(request, "plans/_row.html", context, status=422)
    return render(request, "plans/plan.html", _with_row(request, saved, part, row), status=422)


def _with_row(request: HttpRequest, saved: SavedPlan, part: str, row: Row) -> dict[str, Any]:
    """The page's context, with one row as it was typed."""
    context = workspace_context(request, saved, saved.head, part)
    context["rows"] = [row if r.path == row.path else r for r in context["rows"]]
    return context


def _stale_page(request: HttpRequest, saved: SavedPlan, part: str, row: Row) -> HttpResponse:
    """The plan as it stands, with the refused row as it was typed."""
    saved.refresh_from_db()
    context = _with_row(request, saved, part, row)
    page = "plans/_workspace.html" if request.htmx else "plans/plan.html"
    return _whole_workspace(render(request, page, context, status=409))


def _whole_workspace(response: HttpResponse) -> HttpResponse:
    """Tell htmx to swap the whole workspace, whatever asked."""
    response["HX-Retarget"], response["HX-Reswap"] = "#workspace", "outerHTML"
    return _changed(response)


def _gone(request: HttpRequest, saved: SavedPlan, part: str) -> HttpResponse:
    context = workspace_context(request, saved, saved.head, part)
    context["notice"] = "That field is no longer in this plan; here is the plan as it stands."
    page = "plans/_workspace.html" if request.htmx else "plans/plan.html"
    return _whole_workspace(render(request, page, context, status=422))


Step = Callable[[SavedPlan, Any, int], Revision]


def _step(request: HttpRequest, key: UUID, step: Step) -> HttpResponse:
    saved = _own_plan(request, key)
    part, notice = request.POST.get("part", SITE), ""
    try:
        head = step(saved, request.user, _base(request))
    except StaleEdit as stale:
        head = stale.newest
        notice = (
            f"The plan was changed elsewhere ({head.what_changed}), so nothing was done. This is "
            "how it stands now."
        )
    except EditRefused as refused:
        head, notice = saved.head, str(refused)
    if not request.htmx:
        if notice:
            messages.warning(request, notice)
        return redirect(f"{_address(saved)}?part={part}")
    context = {**workspace_context(request, saved, head, part), "notice": notice}
    page = render(request, "plans/_workspace.html", context, status=409 if notice else 200)
    return _changed(page)


def _own_pumps(request: HttpRequest) -> tuple[CatalogPump, ...]:
    return tuple(p.as_catalog() for p in OwnPump.objects.filter(owner=request.user))


@require_GET
@login_required
def offers(request: HttpRequest, key: UUID, kind: str) -> HttpResponse:
    """Changes the engine has worked out, each with its effect."""
    if kind not in LISTS:
        raise Http404
    saved = _own_plan(request, key)
    found = assessment_of(saved.head)
    units = units_for(request, found.evaluation.plan)
    context = LISTS[kind](found, request.GET, units, _own_pumps(request))
    page = {
        **context, "saved": saved, "head": saved.head, "kind": kind,
        "part": request.GET.get("part", SITE), "plan": found.evaluation.plan,
        "template": f"plans/offers/{kind}.html", "in_page": bool(request.htmx),
    }  # fmt: skip
    return render(request, page["template"] if request.htmx else "plans/offers/page.html", page)


@require_GET
@login_required
def compare(request: HttpRequest, key: UUID) -> HttpResponse:
    """Two revisions of a plan, or two plans, side by side."""
    saved = _own_plan(request, key)
    units = units_for(request, plan_of(saved.head))
    return render(request, "plans/compare.html", compare_page(saved, request.GET, units))


@require_GET
@login_required
def bench(request: HttpRequest, key: UUID, bench: str) -> HttpResponse:
    """One concern of a plan, with its picture."""
    if bench not in BENCHES:
        raise Http404
    saved = _own_plan(request, key)
    found = assessment_of(saved.head)
    plan = found.evaluation.plan
    units = units_for(request, plan)
    page = {
        **BENCHES[bench].page(Ask(saved, found, request.GET, units, _own_pumps(request))),
        "saved": saved, "head": saved.head, "plan": plan, "units": units, "bench": BENCHES[bench],
        "benches": benches_of(plan), "template": f"plans/benches/{bench}.html",
        "asked": request.GET.urlencode(), "part": request.GET.get("part", SITE),
        "in_page": bool(request.htmx),
    }  # fmt: skip
    return render(request, "plans/_bench.html" if request.htmx else "plans/bench.html", page)


@require_GET
@login_required
def explained(request: HttpRequest, key: UUID) -> HttpResponse:
    """How one figure came to be."""
    saved = _own_plan(request, key)
    assessment = assessment_of(saved.head)
    found = explain(assessment, request.GET.get("figure", ""))
    if found is None:
        raise Http404
    plan = assessment.evaluation.plan
    drivers = () if found.figure.formula.compute else found.drivers
    figure = shown_figure(found.figure, units_for(request, plan), drivers)
    page = {"figure": figure, "saved": saved, "plan": plan, "template": "plans/_explained.html"}
    return render(request, page["template"] if request.htmx else "plans/offers/page.html", page)


@require_GET
@login_required
def play(request: HttpRequest, key: UUID) -> HttpResponse:
    """Levels to play on the side view."""
    return JsonResponse(play_hours(plan_of(_own_plan(request, key).head), request.GET))


@require_GET
@login_required
def ghost(request: HttpRequest, key: UUID, kind: str) -> HttpResponse:
    """What one of those changes would do, before it is made."""
    if kind not in OFFERS:
        raise Http404
    saved = _own_plan(request, key)
    found = assessment_of(saved.head)
    units, own = units_for(request, found.evaluation.plan), _own_pumps(request)
    return JsonResponse(ghost_of(found, lambda p: OFFERS[kind](p, request.GET, units, own), units))


@require_POST
@login_required
def take(request: HttpRequest, key: UUID, kind: str) -> HttpResponse:
    """Make one of those changes."""
    if kind not in OFFERS:
        raise Http404
    saved = _own_plan(request, key)
    units, own = units_for(request, plan_of(saved.head)), _own_pumps(request)

    def offered(plan: Plan) -> Offered:
        return OFFERS[kind](plan, request.POST, units, own)

    def step(plan: SavedPlan, user: Any, base: int) -> Revision:
        return apply_change(plan, user, base, offered)

    return _step(request, key, step)


@require_POST
@login_required
def undo(request: HttpRequest, key: UUID) -> HttpResponse:
    """Back to the revision before."""
    return _step(request, key, undo_plan)


@require_POST
@login_required
def redo(request: HttpRequest, key: UUID) -> HttpResponse:
    """Forward again."""
    return _step(request, key, redo_plan)


@require_GET
@login_required
def export(request: HttpRequest, key: UUID) -> HttpResponse:
    """The plan as a file."""
    plan = plan_of(_own_plan(request, key).head)
    name = slugify(plan.name) or "plan"
    headers = {"Content-Disposition": f'attachment; filename="{name}.json"'}
    return HttpResponse(dump_plan(plan), content_type="application/json", headers=headers)


@require_http_methods(["GET", "POST"])
@login_required
def delete(request: HttpRequest, key: UUID) -> HttpResponse:
    """Ask, then take the plan off the shelf."""
    saved = _own_plan(request, key)
    plan = plan_of(saved.head)
    if request.method == "GET":
        return render(request, "plans/delete.html", {"saved": saved, "plan": plan})
    delete_plan(saved, request.user)
    messages.success(request, f"“{plan.name}” was deleted.")
    return redirect("shelf")


@require_POST
def switch_units(request: HttpRequest) -> HttpResponse:
    """Show metric or US units from now on, or each family of quantities in its own."""
    chosen = request.POST.get("units", "")
    if chosen in SYSTEMS:
        request.session["units"] = chosen
    elif chosen == "mix":
        picked = {family: request.POST.get(family, "metric") for family in FAMILIES}
        request.session["units"] = mixed(picked)
    back = request.POST.get("back", "/")
    return redirect(back if back.startswith("/") and not back.startswith("//") else "/")


@require_GET
def plan_schema(request: HttpRequest) -> HttpResponse:
    """JSON Schema of the plan file."""
    return JsonResponse(schema())
