"""Trials: two parts compared fairly, by what the log says of them."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST

from bathys.evaluation import Evaluation
from bathys.fieldlog import ENTRY_KINDS, TRIAL_MEASURES
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_trial import BadTrial, keep_trial
from bathys_web.plans.actions.keep_trial import delete_trial as delete
from bathys_web.plans.models import SavedPlan, Trial
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.trial_page import trial_told
from bathys_web.plans.views.own import own_plan

__all__ = ["delete_trial", "trials"]

_MOST_PLANS = 12  # of the owner, whose parts are offered
_MOST_DAYS = 400


def _parts(found: Evaluation, measure: str) -> list[str]:
    return list(ENTRY_KINDS[TRIAL_MEASURES[measure].kind].parts(found))


def _others(request: SignedInRequest, saved: SavedPlan) -> list[tuple[SavedPlan, Evaluation]]:
    """This plan and the last few others of its owner."""
    rows = SavedPlan.objects.filter(owner=request.user, is_archived=False).select_related("head")
    rows = rows.exclude(pk=saved.pk)[: _MOST_PLANS - 1]
    return [(row, assessment_of(row.current).evaluation) for row in (saved, *rows)]


@require_http_methods(["GET", "POST"])
@login_required
def trials(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The trials of a plan; posted, one is begun.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``title``, what ``differs``, the ``measure``, the ``first`` part, the
        ``second`` as its plan's key and its id, and how many ``days`` back count too
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units, error = units_for(request, found.plan), ""
    others = _others(request, saved)
    if request.method == "POST":
        try:
            _begin(request, saved, found, others)
            return redirect("trials", saved.key)
        except BadTrial as bad:
            error = str(bad)
    now = timezone.now()
    rows = Trial.objects.filter(plan=saved).select_related("plan", "other__head")
    parts = list(dict.fromkeys(p for m in TRIAL_MEASURES for p in _parts(found, m)))
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "error": error,
        "typed": request.POST,
        "trials": [trial_told(row, found, now, units) for row in rows],
        "measures": TRIAL_MEASURES.values(),
        "parts": [(part, found.plan.names[part]) for part in parts],
        "seconds": [
            (f"{row.key} {part}", f"{other.plan.name}: {other.plan.names[part]}")
            for row, other in others
            for part in dict.fromkeys(p for m in TRIAL_MEASURES for p in _parts(other, m))
        ],
    }
    return render(request, "plans/trials.html", context, status=422 if error else 200)


def _begin(
    request: SignedInRequest,
    saved: SavedPlan,
    found: Evaluation,
    others: list[tuple[SavedPlan, Evaluation]],
) -> None:
    posted = request.POST
    measure, first = posted.get("measure", ""), posted.get("first", "")
    where, _, second = posted.get("second", "").partition(" ")
    if measure not in TRIAL_MEASURES:
        raise BadTrial("Choose what they are compared by.")
    other = next(((row, f) for row, f in others if str(row.key) == where), None)
    if other is None or first not in _parts(found, measure):
        raise BadTrial("Choose two parts at which that is measured.")
    if second not in _parts(other[1], measure):
        raise BadTrial("Choose two parts at which that is measured.")
    days = min(max(whole_number(posted.get("days")), 0), _MOST_DAYS)
    words = (posted.get("title", ""), posted.get("differs", ""))
    keep_trial(saved, request.user, words, measure, first, (other[0], second), days)


@require_POST
@login_required
def delete_trial(request: SignedInRequest, key: UUID, pk: int) -> HttpResponse:
    """Delete a trial; what was measured stays.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    pk : int
        Number of the trial

    Returns
    -------
    HttpResponse
        To the page
    """
    saved = own_plan(request, key)
    delete(get_object_or_404(Trial.objects.select_related("plan"), pk=pk, plan=saved), request.user)
    return redirect("trials", saved.key)
