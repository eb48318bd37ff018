"""A bench of a plan, and of two plans beside each other: as planned and as built, say."""

from typing import Any
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.views.decorators.http import require_http_methods

from bathys.drawing.stations import labels_of
from bathys.network import NotSolved
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.benches import BENCHES, Bench, BenchRequest, benches_of
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.other_plans import OtherPlan, others_of
from bathys_web.plans.pages import SITE, units_for
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.views.own import asked_of, offer_context_of, own_plan

__all__ = ["bench", "beside"]

_OF_THE_PAGE = ("other", "part")  # asked of both plans is all but these


@require_http_methods(["GET", "POST"])
@login_required
def bench(request: SignedInRequest, key: UUID, bench: str) -> HttpResponse:
    """One concern of a plan, with its picture; posted, what takes long is asked for.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    bench : str
        Name of the bench

    Returns
    -------
    HttpResponse
        The bench
    """
    if bench not in BENCHES:
        raise Http404
    asked = asked_of(request)
    page = _bench_context(request, own_plan(request, key), BENCHES[bench], asked)
    if request.method == "POST" and not request.htmx and not page.get("errors"):
        return redirect(f"{request.path}?{asked.urlencode()}")
    return render(request, "plans/_bench.html" if request.htmx else "plans/bench.html", page)


@require_http_methods(["GET", "POST"])
@login_required
def beside(request: SignedInRequest, key: UUID, bench: str) -> HttpResponse:
    """One bench of two plans, to look at; posted, what takes long is asked for, of both.

    Parameters
    ----------
    request : SignedInRequest
        The request; ``other`` names the other plan by its key, else the nearest kin is taken
    key : UUID
        Key of the plan
    bench : str
        Name of the bench

    Returns
    -------
    HttpResponse
        The page
    """
    if bench not in BENCHES:
        raise Http404
    saved, asked, shown = own_plan(request, key), asked_of(request), BENCHES[bench]
    plan = plan_of(saved.current)
    choices = others_of(saved)
    other = _chosen(request, choices, asked.get("other", ""))
    context = {
        "saved": saved,
        "plan": plan,
        "units": units_for(request, plan),
        "bench": shown,
        "benches": benches_of(plan),
        "choices": choices,
        "other": other,
    }
    if other is not None:
        asked["other"] = str(other.key)
        columns = [_column(request, one, shown, asked, side) for one, side in _sides(saved, other)]
        if request.method == "POST" and not request.htmx and not columns[0].get("errors"):
            return redirect(f"{request.path}?{asked.urlencode()}")
        context |= {"columns": columns, "choice": columns[0].get("choice", "")}
    return render(request, "plans/beside.html", context)


def _sides(saved: SavedPlan, other: SavedPlan) -> tuple[tuple[SavedPlan, str], ...]:
    return (saved, "-left"), (other, "-right")


def _chosen(request: SignedInRequest, choices: list[OtherPlan], asked: str) -> SavedPlan | None:
    """The plan that was picked; else the nearest kin, and none of a stranger's."""
    keys = [c.key for c in choices]
    if asked:
        if asked not in keys:
            raise Http404
        return own_plan(request, UUID(asked))
    kin = next((c.key for c in choices if c.is_kin), None)
    return own_plan(request, UUID(kin)) if kin is not None else None


def _column(
    request: SignedInRequest, saved: SavedPlan, bench: Bench, asked: QueryDict, side: str
) -> dict[str, Any]:
    """What one half of the page shows; ``wrong`` alone where the plan has no answer."""
    plan = plan_of(saved.current)
    head = {"saved": saved, "plan": plan, "side": side, "is_said": bench.shows(plan)}
    if not head["is_said"]:
        return head
    own = asked.copy()
    for field in _OF_THE_PAGE:
        own.pop(field, None)
    try:
        context = _bench_context(request, saved, bench, own)
    except NotSolved as error:
        return {**head, "wrong": f"This cannot be worked out: {error}"}
    context |= {
        "side": side,
        "in_page": False,
        "here": f"{request.path}?{asked.urlencode()}",
        "choose": f"{request.path}?other={asked['other']}&",
    }
    choice = render_to_string(bench.choice, context, request) if bench.choice else ""
    words = render_to_string(context["template"], context, request)
    return {**head, **context, "choice": choice, "words": words}


def _bench_context(
    request: SignedInRequest, saved: SavedPlan, bench: Bench, asked: QueryDict
) -> dict[str, Any]:
    """All that a bench's template needs of one plan."""
    found = assessment_of(saved.current)
    plan = found.evaluation.plan
    units = units_for(request, plan)
    shown = bench.page(BenchRequest(saved, found, asked, units, offer_context_of(request, saved)))
    return {
        **shown,
        "saved": saved,
        "head": saved.current,
        "plan": plan,
        "units": units,
        "bench": bench,
        "numbers": labels_of(plan),
        "benches": benches_of(plan),
        "template": f"plans/benches/{bench.key}.html",
        "asked": asked.urlencode(),
        "part": asked.get("part", SITE),
        "here": f"{request.path}?{asked.urlencode()}",
        "in_page": bool(request.htmx),
        "choose": f"{request.path}?",
        "side": "",
    }
