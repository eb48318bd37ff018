"""One series of the log as a chart."""

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

__all__ = ["log_chart"]


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
