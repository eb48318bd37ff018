"""What only looks: the plan page, its inspector, benches, offers, comparisons, the past."""

import re
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.drawing.stations import labels_of
from bathys.fieldlog import ENTRY_KINDS
from bathys.pipeline import explain, explain_dynamic
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.begin_building import built_by, moved_since
from bathys_web.plans.benches.hours import play as play_hours
from bathys_web.plans.comparing import compare_page
from bathys_web.plans.dynamic import dynamic_of
from bathys_web.plans.history import history_of
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.offers import LISTS, OFFERS, list_offers
from bathys_web.plans.pages import (
    SITE,
    shown_figure,
    units_for,
    workspace_context,
)
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.preview import preview_of
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.views.own import asked_of, offer_context_of, own_plan

__all__ = [
    "compare",
    "explained",
    "history",
    "offers",
    "plan_page",
    "play",
    "preview",
]

_REVISIONS_A_PAGE = 50
_LATE = re.compile(
    r"\.(claim\.\w+|least|spare|cut\d+\.\w+|together\.\w+)$"
)  # figures that only time brings out


@require_GET
@login_required
def plan_page(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The plan page.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    context = workspace_context(request, saved, saved.current, request.GET.get("part", SITE))
    label = whole_number(request.GET.get("of"))
    if label > 0:
        found, part = assessment_of(saved.current).evaluation, request.GET.get("part", "")
        kinds = (k for k in ENTRY_KINDS.values() if k.key != "job")
        context["enter_here"] = [k for k in kinds if part and part in k.parts(found)]
    if 0 < label != saved.current.number:
        context["notice"] = (
            f"This label is of revision {label}. The plan stands at revision "
            f"{saved.current.number} now: check what changed before you go by the label."
        )
    begun = built_by(saved)
    if begun is not None and moved_since(begun):
        context["notice"] = (
            "Bathys has changed since building began, and works some of what you build out "
            "otherwise now. Open Build to see what."
        )
    return render(request, "plans/plan.html", context)


@require_http_methods(["GET", "POST"])
@login_required
def offers(request: SignedInRequest, key: UUID, kind: str) -> HttpResponse:
    """Changes the engine has worked out, each with its effect; posted, what takes long is asked
    for.

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
        The offers
    """
    if kind not in LISTS:
        raise Http404
    saved, asked = own_plan(request, key), asked_of(request)
    if request.method == "POST" and not request.htmx:
        units = units_for(request, plan_of(saved.current))
        list_offers(
            kind, assessment_of(saved.current), asked, units, offer_context_of(request, saved)
        )
        return redirect(f"{request.path}?{asked.urlencode()}")
    found = assessment_of(saved.current)
    units = units_for(request, found.evaluation.plan)
    context = list_offers(kind, found, asked, units, offer_context_of(request, saved))
    if "counts" in context:
        context["standing"] = plan_statuses_of([saved.current])[0]
    page = {
        **context,
        "saved": saved,
        "head": saved.current,
        "kind": kind,
        "part": asked.get("part", SITE),
        "plan": found.evaluation.plan,
        "numbers": labels_of(found.evaluation.plan),
        "here": f"{request.path}?{asked.urlencode()}",
        "template": f"plans/offers/{'waits' if 'waits' in context else kind}.html",
        "in_page": bool(request.htmx),
    }
    return render(request, page["template"] if request.htmx else "plans/offers/page.html", page)


@require_GET
@login_required
def compare(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Two revisions of a plan, or two plans, side by side.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    units = units_for(request, plan_of(saved.current))
    return render(request, "plans/compare.html", compare_page(saved, request.GET, units))


@require_GET
@login_required
def explained(request: SignedInRequest, key: UUID) -> HttpResponse:
    """How one figure came to be.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The explanation
    """
    saved = own_plan(request, key)
    assessment = assessment_of(saved.current)
    plan, key_of_figure = assessment.evaluation.plan, request.GET.get("figure", "")
    found = explain(assessment, key_of_figure)
    if found is None and _LATE.search(key_of_figure):
        dynamic = dynamic_of(offer_context_of(request, saved), plan)
        found = explain_dynamic(dynamic, key_of_figure) if dynamic else None
    if found is None:
        raise Http404
    drivers = found.drivers if found.figure.formula.found else ()
    figure = shown_figure(found.figure, plan.names, units_for(request, plan), drivers)
    own = "plans/_explained.html"
    page = {"figure": figure, "saved": saved, "plan": plan, "template": own}
    return render(request, own if request.htmx else "plans/offers/page.html", page)


@require_POST
@login_required
def play(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Levels to play on the side view, or how far they are.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        JSON
    """
    saved = own_plan(request, key)
    plan, context = plan_of(saved.current), offer_context_of(request, saved)
    return JsonResponse(play_hours(plan, asked_of(request), units_for(request, plan), context))


@require_GET
@login_required
def preview(request: SignedInRequest, key: UUID, kind: str) -> HttpResponse:
    """What one of those changes would do, before it is made.

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
        The preview
    """
    if kind not in OFFERS:
        raise Http404
    saved = own_plan(request, key)
    found = assessment_of(saved.current)
    units, context = units_for(request, found.evaluation.plan), offer_context_of(request, saved)
    return JsonResponse(
        preview_of(found, lambda p: OFFERS[kind](p, request.GET, units, context), units)
    )


@require_GET
@login_required
def history(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Every revision of a plan, the newest first.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    pages = Paginator(history_of(saved), _REVISIONS_A_PAGE)
    page = pages.get_page(request.GET.get("page"))
    context = {"saved": saved, "head": saved.current, "plan": plan_of(saved.current), "page": page}
    return render(request, "plans/history.html", context)
