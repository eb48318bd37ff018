"""The first season of a plan, with its days."""

from datetime import date, timedelta
from typing import Any
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.dateparse import parse_date
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods

from bathys.documents import season_ics
from bathys.routine import SeasonStep, season_steps
from bathys.units import System, fill_sentence
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.date_season import date_season
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = ["first_season", "first_season_ics"]

_MOST = timedelta(days=3700)


@require_http_methods(["GET", "POST"])
@login_required
def first_season(request: SignedInRequest, key: UUID) -> HttpResponse:
    """What is done when, from the day on which it is filled; posted, that day is kept.

    Parameters
    ----------
    request : SignedInRequest
        The request: the ``day``, or nothing to forget it
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved, error = own_plan(request, key), ""
    if request.method == "POST":
        typed = request.POST.get("day", "").strip()
        day = _day(typed)
        if typed and day is None:
            error = "Write a day such as 2030-05-17, within ten years."
        else:
            date_season(saved, request.user, day)
            return redirect("first_season", saved.key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    begins, today = saved.fills_on, timezone.localdate()
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "error": error,
        "typed": request.POST.get("day", "") if error else begins.isoformat() if begins else "",
        "begins": begins,
        "steps": [_step(step, begins, today, units) for step in season_steps(found)],
        "has_fish": bool(found.plan.fish),
    }
    return render(request, "plans/first_season.html", context, status=422 if error else 200)


def _day(typed: str) -> date | None:
    try:
        day = parse_date(typed)
    except ValueError:
        return None
    if day is None or abs(day - timezone.localdate()) > _MOST:
        return None
    return day


def _step(step: SeasonStep, begins: date | None, today: date, units: System) -> dict[str, Any]:
    told: dict[str, Any] = {
        "step": step,
        "text": fill_sentence(step.text, step.figures, units, {}),
        "is_sure": step.soonest == step.latest,
    }
    if begins is not None:
        on = begins + timedelta(days=step.day)
        told |= {
            "on": on,
            "from": begins + timedelta(days=step.soonest),
            "to": begins + timedelta(days=step.latest),
            "is_over": begins + timedelta(days=step.latest) < today,
        }
    return told


@require_GET
@login_required
def first_season_ics(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The same for a calendar.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        An iCalendar file; to the page where no day is kept
    """
    saved = own_plan(request, key)
    if saved.fills_on is None:
        return redirect("first_season", saved.key)
    found = assessment_of(saved.current).evaluation
    plan = found.plan
    units = units_for(request, plan)
    content = season_ics(season_steps(found), plan.name, str(saved.key), saved.fills_on, units)
    name = slugify(plan.name) or "plan"
    headers = {"Content-Disposition": f'attachment; filename="{name}-first-season.ics"'}
    return HttpResponse(content, content_type="text/calendar; charset=utf-8", headers=headers)
