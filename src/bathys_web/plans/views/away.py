"""A sheet for whoever looks after a layout while its builder is away."""

from datetime import date, timedelta
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.utils.dateparse import parse_date
from django.views.decorators.http import require_GET

from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.away_sheet import MOST_DAYS, away_sheet
from bathys_web.plans.harm_ahead import harm_ahead
from bathys_web.plans.models import LogEntry
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = ["away"]


@require_GET
@login_required
def away(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The sheet, to be printed.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``first`` and ``last`` day, ``who`` looks after it, ``call`` to reach the
        builder by; none of it is kept
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units, now = units_for(request, found.plan), timezone.localtime()
    usual = now.date() + timedelta(days=1)
    stays = timedelta(days=max(found.plan.site.days_away - 1, 0))
    errors = dict[str, str]()
    first = _day(request, "first", usual, errors)
    last = _day(request, "last", first + stays, errors)
    if not errors and first < now.date():
        errors["first"] = "That day is over: take today or a later one."
    if not errors and not first <= last < first + timedelta(days=MOST_DAYS):
        errors["last"] = f"Take a day from the first on, within {MOST_DAYS} days."
    if errors:
        first, last = usual, usual + stays
    entries = list(LogEntry.objects.filter(plan=saved))
    harm = harm_ahead(saved, found, entries, now)
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "errors": errors,
        "typed": {
            "first": request.GET.get("first", "") if errors else first.isoformat(),
            "last": request.GET.get("last", "") if errors else last.isoformat(),
            "who": request.GET.get("who", "")[:80],
            "call": request.GET.get("call", "")[:80],
        },
        "first": first,
        "final": last,
        **away_sheet(found, entries, now, (first, last), units, harm.until if harm else None),
    }
    return render(request, "plans/away.html", context, status=422 if errors else 200)


def _day(request: SignedInRequest, field: str, usual: date, errors: dict[str, str]) -> date:
    text = request.GET.get(field, "").strip()
    if not text:
        return usual
    try:
        found = parse_date(text)
    except ValueError:
        found = None
    if found is None:
        errors[field] = "Write a day such as 2030-05-17."
    return found or usual
