"""Pieces of the plan page that are asked for by themselves."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET

from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.choices import join_choices, pump_choices
from bathys_web.plans.pages import SITE, inspector_context, units_for, workspace_context
from bathys_web.plans.storing import plan_of
from bathys_web.plans.views.own import address_of, offer_context_of, own_plan

__all__ = ["inspector", "joins", "pumps_to_choose", "side_view"]


@require_GET
@login_required
def side_view(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The side view with its water shaded by what the address says.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The side view, or the page
    """
    saved = own_plan(request, key)
    part = request.GET.get("part", SITE)
    context = workspace_context(request, saved, saved.current, part)
    template = "plans/_side_view.html" if request.htmx else "plans/plan.html"
    return render(request, template, context)


@require_GET
@login_required
def inspector(request: SignedInRequest, key: UUID) -> HttpResponse:
    """One part in the inspector.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The inspector
    """
    saved = own_plan(request, key)
    part = request.GET.get("part", SITE)
    if not request.htmx:
        return redirect(f"{address_of(saved)}?part={part}")
    plan = plan_of(saved.current)
    context = inspector_context(plan, part, units_for(request, plan), request.user)
    return render(
        request, "plans/_inspector.html", {**context, "saved": saved, "head": saved.current}
    )


@require_GET
@login_required
def joins(request: SignedInRequest, key: UUID) -> HttpResponse:
    """What a new part of a kind may be joined to.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The choices
    """
    plan = plan_of(own_plan(request, key).current)
    found = join_choices(plan, request.GET.get("kind", ""), request.GET.get("target", ""))
    return render(request, "plans/_joins.html", {"joins": found})


@require_GET
@login_required
def pumps_to_choose(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Pumps to put in a pump's place: the builder's own and the samples, in one list.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The list
    """
    saved = own_plan(request, key)
    own = offer_context_of(request, saved).pumps
    groups = pump_choices(own, units_for(request, plan_of(saved.current)))
    context = {"pumps": groups, "saved": saved, "head": saved.current}
    return render(
        request, "plans/_pumps_to_choose.html", {**context, "part": request.GET.get("part", "")}
    )
