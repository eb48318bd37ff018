"""A plan's jobs in whatever calendar somebody uses, by an address that can be taken back."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_GET, require_POST

from bathys.documents import routine_ics
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.share_calendar import share_calendar
from bathys_web.plans.harm_ahead import harm_ahead
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.run_page import jobs_due
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = ["calendar_feed", "calendar_link"]


@require_POST
@login_required
def calendar_link(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Make the address of a plan's calendar, or take it back.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``share`` is ``yes`` to make it
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the log
    """
    saved = own_plan(request, key)
    share_calendar(saved, request.user, request.POST.get("share") == "yes")
    return redirect("run", saved.key)


@require_GET
def calendar_feed(request: HttpRequest, secret: UUID) -> HttpResponse:
    """The jobs of a plan, each on the day it is due next.

    Parameters
    ----------
    request : HttpRequest
        The request; nobody needs to be signed in
    secret : UUID
        The address that was made for it

    Returns
    -------
    HttpResponse
        An iCalendar file; 404 where the address was taken back
    """
    saved = get_object_or_404(SavedPlan, calendar=secret)
    found = assessment_of(saved.current).evaluation
    plan, entries, now = found.plan, list(LogEntry.objects.filter(plan=saved)), timezone.now()
    harm = harm_ahead(saved, found, entries, now)
    rows = jobs_due(found, entries, now, harm.until if harm else None)
    content = routine_ics(
        [row.job for row in rows],
        plan.name,
        str(saved.key),
        timezone.localdate(),
        units_for(request, plan),
        due={row.job.key: row.left for row in rows},
    )
    return HttpResponse(content, content_type="text/calendar; charset=utf-8")
