"""The plans page: plans in, out and away."""

from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse, JsonResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.drawing import draw_side_view
from bathys.drawing.sheet import small_svg_file, svg_file
from bathys.drawing.stations import stations_of
from bathys.network import NotSolved
from bathys.plan import BadPlan, Fault, dump_plan, load_plan, schema
from bathys.plan.loading import LARGEST_FILE
from bathys.units import FAMILIES, SYSTEMS, mixed
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.archive_plan import archive_plan
from bathys_web.plans.actions.copy_plan import copy_plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.delete_plan import delete_plan
from bathys_web.plans.actions.label_plan import BadLabels, label_plan
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.pages import units_for
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.searching import SORTS, search_of
from bathys_web.plans.starters import LAYOUTS, PRACTICE, starter, starters
from bathys_web.plans.storing import assessment_of_plan, plan_of
from bathys_web.plans.views.own import own_plan

__all__ = [
    "archive",
    "copy",
    "delete",
    "export",
    "import_plan",
    "label",
    "new_plan",
    "picture",
    "plan_schema",
    "plans_page",
    "switch_units",
]


_PLANS_A_PAGE = 24


@require_GET
@login_required
def plans_page(request: SignedInRequest) -> HttpResponse:
    """All of the visitor's plans.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    return _plans_page(request)


def _plans_page(request: SignedInRequest, faults: list[Fault] | None = None) -> HttpResponse:
    search, mine = search_of(request.GET), SavedPlan.objects.filter(owner=request.user)
    page = Paginator(search.plans(request.user), _PLANS_A_PAGE).get_page(request.GET.get("page"))
    plans = list(page.object_list)
    heads = [saved.current for saved in plans]
    rows = [
        {"saved": saved, "plan": plan_of(head), "standing": standing}
        for saved, head, standing in zip(plans, heads, plan_statuses_of(heads), strict=True)
    ]
    labels = sorted({label for own in mine.values_list("labels", flat=True) for label in own})
    shown = [(label, label == search.label) for label in labels]
    context = {
        "rows": rows,
        "page": page,
        "search": search,
        "sorts": SORTS,
        "labels": shown,
        "has_plans": bool(rows) or mine.exists(),
        "archived": mine.filter(is_archived=True).count(),
        "faults": faults or [],
        "units": units_for(request),
        "starters": starters(),
        "from_practice": starters(from_practice=True),
    }
    return render(request, "plans/plans.html", context, status=422 if faults else 200)


def _back(request: SignedInRequest) -> HttpResponse:
    """To the plans as they were looked at."""
    asked = request.POST.get("asked", "")
    return redirect(f"{reverse('plans')}?{QueryDict(asked).urlencode()}" if asked else "plans")


@require_POST
@login_required
def archive(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Put a plan into the archive, or take it out.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The plans page
    """
    saved = own_plan(request, key)
    archived = request.POST.get("archived") == "1"
    archive_plan(saved, request.user, archived=archived)
    name = plan_of(saved.current).name
    where = "is in the archive now" if archived else "is among your plans again"
    messages.success(request, f"{name} {where}.")
    return _back(request)


@require_POST
@login_required
def label(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Give a plan labels.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The plans page
    """
    try:
        label_plan(own_plan(request, key), request.user, request.POST.get("labels", ""))
    except BadLabels as error:
        messages.error(request, str(error))
    return _back(request)


@require_POST
@login_required
def new_plan(request: SignedInRequest) -> HttpResponse:
    """Start a plan from a layout.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page, or the new plan's
    """
    key = request.POST.get("layout", "stacked-pair")
    if key not in LAYOUTS and key not in PRACTICE:
        raise Http404
    words = key.replace("-", " ")
    saved = create_plan(request.user, starter(key), f"started from the {words}")
    return redirect("plan", key=saved.key)


@require_POST
@login_required
def import_plan(request: SignedInRequest) -> HttpResponse:
    """Store a plan from a file.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page, or the new plan's
    """
    upload = request.FILES.get("file")
    if upload is None:
        return _plans_page(request, [Fault("file", "Choose a plan file first.")])
    if (upload.size or 0) > LARGEST_FILE:
        return _plans_page(request, [Fault("file", "This file is larger than any plan (2 MB).")])
    try:
        plan = load_plan(upload.read())
    except BadPlan as bad:
        return _plans_page(request, bad.faults)
    saved = create_plan(request.user, plan, "imported from a file")
    return redirect("plan", key=saved.key)


@require_GET
@login_required
def export(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The plan as a file.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        A plan file
    """
    plan = plan_of(own_plan(request, key).current)
    name = slugify(plan.name) or "plan"
    headers = {"Content-Disposition": f'attachment; filename="{name}.json"'}
    return HttpResponse(dump_plan(plan), content_type="application/json", headers=headers)


@require_GET
@login_required
def picture(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The side view as a file that stands by itself.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        An SVG document

    Raises
    ------
    Http404
        If the plan cannot be worked out, so that there is nothing to draw
    """
    plan = plan_of(own_plan(request, key).current)
    try:
        found = assessment_of_plan(plan)
    except NotSolved as error:
        raise Http404 from error
    scene = draw_side_view(found.evaluation, stations_of(plan), units_for(request, plan))
    draw = small_svg_file if "small" in request.GET else svg_file
    return HttpResponse(draw(scene, plan.name), content_type="image/svg+xml")


@require_POST
@login_required
def copy(request: SignedInRequest, key: UUID) -> HttpResponse:
    """A variant of the plan, as it stands or as a revision had it.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The new plan's page
    """
    saved = own_plan(request, key)
    number = whole_number(request.POST.get("number"))
    revision = saved.revisions.filter(number=number).first() or saved.current
    return redirect("plan", key=copy_plan(revision, request.user).key)


@require_http_methods(["GET", "POST"])
@login_required
def delete(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Ask, then delete the plan.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        A question, then the plans page
    """
    saved = own_plan(request, key)
    plan = plan_of(saved.current)
    if request.method == "GET":
        return render(request, "plans/delete.html", {"saved": saved, "plan": plan})
    delete_plan(saved, request.user)
    messages.success(request, f"“{plan.name}” was deleted.")
    return redirect("plans")


@require_POST
def switch_units(request: SignedInRequest) -> HttpResponse:
    """Show metric or US units from now on, or each family of quantities in its own.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page it came from
    """
    chosen = request.POST.get("units", "")
    if chosen in SYSTEMS:
        request.session["units"] = chosen
    elif chosen == "mix":
        picked = {family: request.POST.get(family, "metric") for family in FAMILIES}
        request.session["units"] = mixed(picked)
    back = request.POST.get("back", "/")
    # An address of this site, not the name of a view.
    is_own = back.startswith("/") and url_has_allowed_host_and_scheme(back, allowed_hosts=None)
    return redirect(back if is_own else "/")


@require_GET
def plan_schema(request: SignedInRequest) -> HttpResponse:
    """JSON Schema of the plan file.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        JSON
    """
    return JsonResponse(schema())
