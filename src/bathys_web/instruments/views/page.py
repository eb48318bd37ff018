"""The page of a plan's instruments: what is wrong, what is read, who is told."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.dateparse import parse_time
from django.views.decorators.http import require_GET, require_POST

from bathys.scenarios.failures import failures_of
from bathys.units import unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.instruments.actions.keep_board import add_fault
from bathys_web.instruments.actions.keep_watch import BadWatch, keep_watch, see_incident
from bathys_web.instruments.expecting import expected_answer
from bathys_web.instruments.models import BoardChannel
from bathys_web.instruments.page import instruments_context
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = [
    "NEW_TOKEN",
    "channels_of",
    "instruments",
    "instruments_page",
    "keep_settings",
    "rig_fault",
    "see",
]

NEW_TOKEN = "new_board_token"  # noqa: S105 - the name of a field, not a token
"""Where a session holds the token of a board that was just added, until it is told."""


def channels_of(saved: SavedPlan) -> list[BoardChannel]:
    """What the boards of a plan measure that may send.

    Parameters
    ----------
    saved : SavedPlan
        The plan

    Returns
    -------
    list of BoardChannel
        Without those of boards whose token was taken back
    """
    return list(BoardChannel.objects.filter(board__plan=saved).exclude(board__token_hash=None))


def instruments_page(
    request: SignedInRequest, saved: SavedPlan, errors: dict[str, str], status: int = 200
) -> HttpResponse:
    """The page.

    Parameters
    ----------
    request : SignedInRequest
        The request, with what was typed where something is wrong
    saved : SavedPlan
        The plan
    errors : dict of str to str
        What is wrong, by field
    status : int
        As HTTP has it, [-]

    Returns
    -------
    HttpResponse
        The page
    """
    found = assessment_of(saved.current).evaluation
    units, rows = units_for(request, found.plan), channels_of(saved)
    answer = expected_answer(saved, rows)
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "errors": errors,
        "typed": request.POST if errors else {},
        "token": request.session.pop(NEW_TOKEN, None),
        "address": request.build_absolute_uri("/api/readings/"),
        "answer": answer,
        "length_unit": unit_of("length", units),
        **instruments_context(saved, found, answer, timezone.now(), units),
    }
    return render(request, "instruments/instruments.html", context, status=status)


@require_GET
@login_required
def instruments(request: SignedInRequest, key: UUID) -> HttpResponse:
    """What is wrong, and what is read beside what should be.

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
    return instruments_page(request, own_plan(request, key), {})


@require_POST
@login_required
def see(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Somebody has seen what is wrong: it is not told again.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page
    """
    saved = own_plan(request, key)
    see_incident(saved, request.user, timezone.now())
    return redirect("instruments", saved.key)


@require_POST
@login_required
def keep_settings(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Keep who is told, and when not.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``ways``, ``quiet_from``, ``quiet_until``, ``also_to``
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page; the page with a sentence at each field that is wrong
    """
    saved = own_plan(request, key)
    errors: dict[str, str] = {}
    minutes = {f: _minute(request, f, errors) for f in ("quiet_from", "quiet_until")}
    also_to = request.POST.get("also_to", "").strip()
    zone = timezone.get_current_timezone_name()
    try:
        if not errors:
            ways = request.POST.getlist("ways")
            quiet = (minutes["quiet_from"], minutes["quiet_until"])
            keep_watch(saved, request.user, ways, also_to, quiet, zone)
    except BadWatch as bad:
        errors["also_to"] = str(bad)
    return (
        instruments_page(request, saved, errors, 422)
        if errors
        else redirect("instruments", saved.key)
    )


def _minute(request: SignedInRequest, field: str, errors: dict[str, str]) -> int:
    try:
        found = parse_time(request.POST.get(field, "").strip())
    except ValueError:
        found = None
    if found is None:
        errors[field] = "Write a time of the day such as 22:00."
        return 0
    return 60 * found.hour + found.minute


@require_POST
@login_required
def rig_fault(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Let something fail on the simulated board.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``failure``, its kind and its place
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page; the page with a sentence if it cannot be
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    simulated = saved.boards.filter(is_simulated=True).first()
    wanted = request.POST.get("failure", "")
    failure = next((f for f in failures_of(found.plan) if f"{f.kind} {f.place}" == wanted), None)
    if simulated is None or failure is None:
        return instruments_page(request, saved, {"fault": "Choose one of the list."}, 422)
    simulated.plan = saved
    add_fault(simulated, request.user, failure, timezone.now())
    return redirect("instruments", saved.key)
