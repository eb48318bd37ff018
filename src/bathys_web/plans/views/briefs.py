"""From a brief to plans: the questions, the answers side by side, and the one that is taken."""

import hashlib
import json
from collections.abc import Mapping
from dataclasses import asdict, replace
from typing import Any
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.design import AIMS, LAYOUTS, DesignBrief
from bathys.plan import Plan, plan_from_data
from bathys.units import System
from bathys_web.computing.asking import Answer, answer_to, ask_and_wait, so_far_of, stop
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_brief import keep_brief, kept_brief_of, plans_of_brief
from bathys_web.plans.actions.keep_container import own_containers_of
from bathys_web.plans.actions.keep_prices import prices_of
from bathys_web.plans.brief_cards import answers_told, found_so_far, reasons_told, tradeoffs_told
from bathys_web.plans.brief_form import ANY_LAYOUT, BriefForm
from bathys_web.plans.choices import container_choices, own_container_choices
from bathys_web.plans.models import OwnPump, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.starters import starter, starters
from bathys_web.plans.storing import assessment_of, plan_of

__all__ = ["brief", "brief_answers", "brief_tradeoffs", "plan_reasons", "take_answer"]

_PICTURES = {key: key.replace("_", "-") for key in LAYOUTS} | {
    "single_loop": "constant-height-tank",
    "two_pumps": "two-pump-timed",
    "cascade": "cascade-float-lift",
}


@require_http_methods(["GET", "POST"])
@login_required
def brief(request: SignedInRequest) -> HttpResponse:
    """The questions; posted, the answers are looked for.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page; with what was typed, and what is wrong with it, where something is
    """
    units, plan = units_for(request), _plan_asked(request)
    if request.method == "GET":
        kept = kept_brief_of(request.user)
        typed = plan.brief if plan is not None else kept.typed if kept is not None else {}
        form = _form_of(request, typed)
        return _page(request, replace(form, errors={}), units, plan)
    form = _form_of(request, request.POST.dict())
    keep_brief(request.user, form.typed, plan)
    if form.brief is None:
        return _page(request, form, units, plan, 422)
    return redirect("brief_answers")


def _form_of(request: SignedInRequest, typed: Mapping[str, str]) -> BriefForm:
    """The form with the visitor's own containers and pumps among its choices."""
    pumps = [p.name for p in OwnPump.objects.filter(owner=request.user)]
    own = own_containers_of(request.user)
    return BriefForm.of(typed, units_for(request), own, pumps)


def _plan_asked(request: SignedInRequest) -> SavedPlan | None:
    """The visitor's plan that is planned again, where one is named."""
    key = request.POST.get("plan", "") or request.GET.get("plan", "")
    if not key:
        return None
    try:
        return get_object_or_404(SavedPlan, key=UUID(key), owner=request.user)
    except (ValueError, ValidationError):
        raise Http404 from None


def _page(
    request: SignedInRequest,
    form: BriefForm,
    units: System,
    plan: SavedPlan | None,
    status: int = 200,
) -> HttpResponse:
    pictures = {s.key: s.scene for s in starters()}
    own = own_container_choices(own_containers_of(request.user), units)
    context = {
        "form": form,
        "units": units,
        "plan": plan,
        "layouts": [
            {"layout": layout, "scene": pictures[_PICTURES[key]]} for key, layout in LAYOUTS.items()
        ],
        "any": ANY_LAYOUT,
        "wishes": [
            {
                "name": name,
                "title": title,
                "count": form.question(f"{name}_count"),
                "container": form.question(f"{name}_container"),
                "sizes": [
                    (form.question(f"{name}_{size}"), words)
                    for size, words in (
                        ("across", "Diameter, or length inside"),
                        ("width", "Width inside; empty if it is round"),
                        ("tall", "Height inside"),
                    )
                ],
            }
            for name, title in (
                ("tank", "Fish tank"),
                ("beds", "Grow beds"),
                ("rafts", "Rafts"),
                ("side_tanks", "Side tanks"),
            )
        ],
        "containers": [*own, *container_choices(units)],
        "place": form.question("place"),
        "places": [
            (form.question("dig"), "May be dug in, at most"),
            (form.question("highest"), "Highest rim that is still reached"),
            (form.question("apart"), "Pipe from one vessel to the next"),
            (form.question("room_length"), "Room, length; empty for any"),
            (form.question("room_width"), "Room, width; empty for any"),
        ],
        "fish": form.question("fish"),
        "species": form.question("species"),
        "matters": form.question("matters"),
        "more": [
            (form.question("name"), "Name of the plan"),
            (form.question("temperature"), "Water temperature"),
            (form.question("days_away"), "Days that nobody tops it up, as on a trip"),
            (form.question("hot_air"), "Hottest air in summer; empty if not known"),
            (form.question("power_cut"), "Longest power cut to live through; empty if not known"),
            (form.question("is_quiet"), "Must it be quiet?"),
            (form.question("own_pump"), "A pump of yours (add it under Parts)"),
            (form.question("budget"), "Budget for all that is bought; empty for none"),
            (form.question("most_watts"), "Watts at most; empty for no limit"),
            (form.question("most_load"), "Load on the ground at most; empty for no limit"),
            (form.question("tariff"), "Electricity, price of a kWh"),
            (form.question("medium"), "What beds are filled with"),
            (form.question("school"), "How much water is to move: school"),
            (form.question("pipe"), "Pipe"),
        ],
    }
    return render(request, "plans/brief.html", context, status=status)


def _answer_to(request: SignedInRequest, told: DesignBrief, asked: str) -> Answer:
    pumps = [asdict(p.as_catalog()) for p in OwnPump.objects.filter(owner=request.user)]
    words = {
        "brief": told.model_dump(mode="json"),
        "pumps": pumps,
        "prices": prices_of(request.user).as_data,
        "asked": asked,
    }
    content = hashlib.sha256(json.dumps(words, sort_keys=True).encode()).hexdigest()
    found = answer_to("design", content, words)
    if found.is_done or request.method != "POST":
        return found
    page = f"brief-{request.user.pk}"
    if "stop" in request.POST:
        if found.is_open:
            stop(found.number, page)
        return answer_to("design", content, words)
    return ask_and_wait("design", content, starter("stacked-pair"), words, request.user, page)


@require_http_methods(["GET", "POST"])
@login_required
def brief_answers(request: SignedInRequest) -> HttpResponse:
    """What the brief comes to: up to three plans side by side, or why there is none.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page; while it is worked out, it asks again by itself
    """
    kept, units = kept_brief_of(request.user), units_for(request)
    form = _form_of(request, kept.typed) if kept is not None else None
    if kept is None or form is None or form.brief is None:
        return redirect("brief")
    found = _answer_to(request, form.brief, "layouts" if form.is_any else "aims")
    context = {
        "answer": found,
        "form": form,
        "units": units,
        "origin": kept.plan,
        "layout": LAYOUTS.get(form.typed["layout"]),
        **(answers_told(found.result, units) if found.is_done else {}),
        "so_far": _so_far(found, units),
    }
    return render(request, "plans/brief_answers.html", context)


def _so_far(found: Answer, units: System) -> list[dict[str, str]]:
    """The plans that are found while the search still goes on."""
    known = so_far_of(found) if found.is_open else None
    return found_so_far(known, units) if known else []


@require_http_methods(["GET", "POST"])
@login_required
def brief_tradeoffs(request: SignedInRequest) -> HttpResponse:
    """All plans that were tried for a brief: watts against what is to spare, and money.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page; while it is worked out, it asks again by itself
    """
    kept, units = kept_brief_of(request.user), units_for(request)
    form = _form_of(request, kept.typed) if kept is not None else None
    if form is None or form.brief is None or form.is_any:
        return redirect("brief")
    found = _answer_to(request, form.brief, "tradeoffs")
    context = {
        "answer": found,
        "form": form,
        "units": units,
        **(tradeoffs_told(found.result, units) if found.is_done else {}),
    }
    return render(request, "plans/brief_tradeoffs.html", context)


@require_POST
@login_required
def take_answer(request: SignedInRequest) -> HttpResponse:
    """Make a plan of one answer, or of all.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``number`` of the answer, or ``all``; its ``layout`` where all were held
        against each other; ``among`` where it is one of all that were tried

    Returns
    -------
    HttpResponse
        To the plan; to the list of plans if all are taken
    """
    kept = kept_brief_of(request.user)
    form = _form_of(request, kept.typed) if kept is not None else None
    if kept is None or form is None or form.brief is None:
        return redirect("brief")
    asked = "layouts" if form.is_any else "tradeoffs" if "among" in request.POST else "aims"
    found = _answer_to(request, form.brief, asked)
    if not found.is_done:
        return redirect("brief_tradeoffs" if asked == "tradeoffs" else "brief_answers")
    rows = _rows(found.result, request.POST.get("layout", ""))
    wanted = request.POST.get("number", "")
    if wanted != "all":
        rows = [row for n, row in enumerate(rows) if str(n) == wanted]
    if not rows:
        raise Http404
    plans = [_named(row) for row in rows] if len(rows) > 1 else [plan_from_data(rows[0]["plan"])]
    reasoned = [(plan, row["reasons"]) for plan, row in zip(plans, rows, strict=True)]
    made = plans_of_brief(request.user, reasoned, kept.typed, kept.plan)
    return redirect("plan", made[0].key) if len(made) == 1 else redirect("plans")


def _rows(result: dict[str, Any], layout: str) -> list[dict[str, Any]]:
    if "layouts" in result:
        return [r["answer"] for r in result["layouts"] if r["layout"] == layout and r["answer"]]
    return list(result.get("answers", ()))


def _named(row: dict[str, Any]) -> Plan:
    """A plan with what it is best for in its name, beside the others."""
    words = ", ".join(AIMS[aim] for aim in row["aims"])
    return plan_from_data({**row["plan"], "name": f"{row['plan']['name']} ({words})"[:80]})


@require_GET
@login_required
def plan_reasons(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Why each size of a plan was so when it was sized from its brief.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        The plan

    Returns
    -------
    HttpResponse
        The page; 404 for a plan that was not sized from a brief
    """
    saved = get_object_or_404(SavedPlan, key=key, owner=request.user)
    if not saved.reasons:
        raise Http404
    units, found = units_for(request), assessment_of(saved.current)
    first = plan_of(saved.revisions.order_by("number")[0])
    context = {
        "saved": saved,
        "plan": found.evaluation.plan,
        "units": units,
        "rows": reasons_told(saved.reasons, found, first, units),
    }
    return render(request, "plans/reasons.html", context)
