"""A plan fitted to its log, and the variant that is made of it."""

from typing import Any
from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST

from bathys_web.computing.asking import answer_to, ask_and_wait
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_as_built import keep_as_built
from bathys_web.plans.as_built import as_built_edits, as_built_told, log_readings
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = ["as_built", "take_as_built"]


def _words(saved: SavedPlan) -> dict[str, Any]:
    """What is asked of the queue: the same until the log or the day changes."""
    found = assessment_of(saved.current).evaluation
    entries = LogEntry.objects.filter(plan=saved)
    readings, days = log_readings(entries, found, timezone.now())
    rows = [[r.kind, r.part, *map(_rounded, (r.value, r.spread, r.fed))] for r in readings]
    return {"readings": rows, "days": days}


def _rounded(value: float) -> float:
    """Ages are counted from now: what comes of them is the same a moment later."""
    return float(f"{value:.4g}")


@require_http_methods(["GET", "POST"])
@login_required
def as_built(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The plan beside what was measured, and as it most likely is; posted, it is worked out.

    Parameters
    ----------
    request : SignedInRequest
        The request; ``asked`` about a figure, what to measure next for that
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page; while it is worked out, it asks again by itself
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units, words = units_for(request, found.plan), _words(saved)
    answer = answer_to("refit", saved.current.content_hash, words)
    if request.method == "POST" and words["readings"] and not answer.is_done:
        content, page = saved.current.content_hash, f"refit-{saved.pk}"
        answer = ask_and_wait("refit", content, found.plan, words, request.user, page)
    result = answer.result if answer.is_done else None
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "answer": answer,
        "has_readings": bool(words["readings"]),
        "wrong": result.get("wrong", "") if result else "",
    }
    if result and "wrong" not in result:
        asked = request.GET.get("asked", "")
        context |= as_built_told(result, found, asked, units, timezone.now())
    return render(request, "plans/as_built.html", context)


@require_POST
@login_required
def take_as_built(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Make a variant of the plan as it was built.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the variant beside the plan; back to the page if the log has changed meanwhile
    """
    saved = own_plan(request, key)
    answer = answer_to("refit", saved.current.content_hash, _words(saved))
    if not answer.is_done or "wrong" in answer.result:
        messages.info(
            request,
            "The log says more than it did when the plan was fitted. Fit it again, then make the "
            "variant.",
        )
        return redirect("as_built", saved.key)
    made = keep_as_built(saved.current, request.user, as_built_edits(answer.result))
    return redirect("plan", made.key)
