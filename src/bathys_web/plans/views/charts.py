"""Series of the log as charts."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_GET

from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.log_chart import log_chart_of
from bathys_web.plans.models import LogEntry
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan
from bathys_web.plans.water_chart import water_chart_of

__all__ = ["log_chart", "water_chart"]


@require_GET
@login_required
def log_chart(request: SignedInRequest, key: UUID, kind: str, part: str) -> HttpResponse:
    """A series as a chart and as a table.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    kind, part : str
        Key of the kind of entry, and id of the part

    Returns
    -------
    HttpResponse
        The page; 404 where nothing of the kind was measured there
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    entries = list(LogEntry.objects.filter(plan=saved))
    told = log_chart_of(found, entries, (kind, part), timezone.now(), units)
    if told is None:
        raise Http404
    context = {"saved": saved, "plan": found.plan, "units": units, **told}
    return render(request, "plans/log_chart.html", context)


@require_GET
@login_required
def water_chart(request: SignedInRequest, key: UUID, part: str) -> HttpResponse:
    """Water tests of a vessel as charts and as a table, and how far its bacteria have come.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    part : str
        Id of the vessel

    Returns
    -------
    HttpResponse
        The page; 404 where its water was not tested twice
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    entries = list(LogEntry.objects.filter(plan=saved))
    told = water_chart_of(found, entries, part, timezone.now(), units)
    if told is None:
        raise Http404
    context = {"saved": saved, "plan": found.plan, "units": units, **told}
    return render(request, "plans/water_chart.html", context)
