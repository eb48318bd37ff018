"""From a brief to plans: the questions, the answers side by side, and the one that is taken."""

import hashlib
import json
import time
from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from bathys.design import AIMS, LAYOUTS, DesignBrief
from bathys.drawing import draw_side_view
from bathys.drawing.stations import stations_of
from bathys.pipeline import Assessment
from bathys.plan import Plan, plan_from_data
from bathys.units import System, fill_sentence, show
from bathys_web.computing.asking import Answer, answer_to, ask
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_brief import keep_brief, kept_brief_of, plans_of_brief
from bathys_web.plans.actions.keep_container import own_containers_of
from bathys_web.plans.brief_form import ANY_LAYOUT, BriefForm
from bathys_web.plans.choices import container_choices, own_container_choices
from bathys_web.plans.models import OwnPump, SavedPlan
from bathys_web.plans.pages import shown_figure, units_for
from bathys_web.plans.starters import starter, starters
from bathys_web.plans.storing import assessment_of_plan

__all__ = ["brief", "brief_answers", "take_answer"]

_LOOK = 0.05  # between two looks for an answer [s]
_PICTURES = {key: key.replace("_", "-") for key in LAYOUTS} | {
    "single_loop": "constant-height-tank",
    "two_pumps": "two-pump-timed",
}
_BOXES = {"dig": "length", "highest": "length", "fish": "mass"}
_WORDS = {"dig": "dig", "highest": "highest rim", "fish": "fish", "layout": "layout"}


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
    units, own = units_for(request), own_containers_of(request.user)
    plan = _plan_asked(request)
    if request.method == "GET":
        kept = kept_brief_of(request.user)
        typed = plan.brief if plan is not None else kept.typed if kept is not None else {}
        form = BriefForm.of(typed, units, own)
        return _page(request, BriefForm(form.typed, {}, form.brief), units, plan)
    form = BriefForm.of(request.POST.dict(), units, own)
    keep_brief(request.user, form.typed, plan)
    if form.brief is None:
        return _page(request, form, units, plan, 422)
    return redirect("brief_answers")


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
            )
        ],
        "containers": [*own, *container_choices(units)],
        "places": [
            (form.question("dig"), "May be dug in, at most"),
            (form.question("highest"), "Highest rim that is still reached"),
            (form.question("apart"), "Pipe from one vessel to the next"),
        ],
        "fish": form.question("fish"),
        "species": form.question("species"),
        "matters": form.question("matters"),
        "more": [
            (form.question("name"), "Name of the plan"),
            (form.question("temperature"), "Water temperature"),
            (form.question("days_away"), "Days that nobody tops it up"),
            (form.question("medium"), "What beds are filled with"),
            (form.question("school"), "How much water is to move: school"),
            (form.question("pipe"), "Pipe"),
        ],
    }
    return render(request, "plans/brief.html", context, status=status)


def _answer_to(request: SignedInRequest, told: DesignBrief, is_any: bool) -> Answer:
    pumps = [asdict(p.as_catalog()) for p in OwnPump.objects.filter(owner=request.user)]
    words = {"brief": told.model_dump(mode="json"), "pumps": pumps, "is_any": is_any}
    content = hashlib.sha256(json.dumps(words, sort_keys=True).encode()).hexdigest()
    found = answer_to("design", content, words)
    if found.is_done or request.method != "POST":
        return found
    page = f"brief-{request.user.pk}"
    found = ask("design", content, starter("stacked-pair"), words, request.user, page)
    until = time.monotonic() + settings.PATIENCE
    while found.is_open and time.monotonic() < until:
        time.sleep(_LOOK)
        found = answer_to("design", content, words)
    return found


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
    if kept is None:
        return redirect("brief")
    form = BriefForm.of(kept.typed, units, own_containers_of(request.user))
    if form.brief is None:
        return redirect("brief")
    found = _answer_to(request, form.brief, form.is_any)
    context = {
        "answer": found,
        "form": form,
        "units": units,
        "origin": kept.plan,
        "layout": LAYOUTS.get(form.typed["layout"]),
        **(_told(form, found.result, units) if found.is_done else {}),
    }
    return render(request, "plans/brief_answers.html", context)


def _told(form: BriefForm, result: dict[str, Any], units: System) -> dict[str, Any]:
    if "layouts" in result:
        return {"tried": [_layout(row, units) for row in result["layouts"]]}
    if "refused" in result:
        return {"refused": _refusal(result["refused"], units)}
    cards = [_card(n, row, units) for n, row in enumerate(result["answers"])]
    missing = [AIMS[aim] for aim in result["missing"]]
    return {"cards": cards, "is_one": len(cards) == 1, "missing": " and ".join(missing)}


def _refusal(refused: dict[str, Any], units: System) -> dict[str, Any]:
    frees = [_change(field, value, units) for field, value in refused["frees"].items()]
    return {
        "wish": refused["wish"],
        "words": fill_sentence(refused["sentence"], refused["figures"], units, {}),
        "frees": frees,
        "boxes": [change["box"] for change in frees],
    }


def _change(field: str, value: Any, units: System) -> dict[str, str]:
    """A change of the brief in words, and the box it belongs to."""
    if field in _BOXES:
        told = show(value, _BOXES[field], units).replace(",", "")
        return {"box": field, "typed": told, "words": f"{_WORDS[field]}: {told}"}
    if field == "layout":
        return {"box": field, "typed": value, "words": f"layout: {LAYOUTS[value].name.lower()}"}
    count = str(value["count"])
    return {"box": f"{field}_count", "typed": count, "words": f"{field}: {count}"}


def _layout(row: dict[str, Any], units: System) -> dict[str, Any]:
    refused, answer = row["refused"], row["answer"]
    return {
        "layout": LAYOUTS[row["layout"]],
        "refused": _refusal(refused, units)["words"] if refused else "",
        "card": _card(0, answer, units) if answer else None,
    }


def _card(number: int, row: dict[str, Any], units: System) -> dict[str, Any]:
    plan = plan_from_data(row["plan"])
    found = assessment_of_plan(plan)
    return {
        "number": number,
        "title": " and ".join(AIMS[aim] for aim in row["aims"]),
        "scene": draw_side_view(found.evaluation, stations_of(plan), units),
        "figures": _figures(plan, found, units),
        "warnings": [fill_sentence(s, f, units, plan.names) for s, f in row["warnings"]],
        "reasons": [
            {
                "what": f"{r['what'][:1].upper()}{r['what'][1:]}",
                "words": fill_sentence(r["sentence"], r["figures"], units, plan.names),
            }
            for r in row["reasons"]
        ],
    }


def _figures(plan: Plan, found: Assessment, units: System) -> list[tuple[str, str]]:
    shown = [shown_figure(figure, plan.names, units) for figure in found.headlines]
    rows = [(figure.label, figure.value) for figure in shown]
    highest = max(v.floor_height + v.shape.height for v in plan.vessels)
    dug = sum(-min(v.floor_height, 0.0) * v.shape.footprint for v in plan.vessels)
    return [
        *rows,
        ("Highest rim", show(highest, "length", units)),
        ("To be dug out", show(dug, "volume", units) if dug > 0.0 else "nothing"),
    ]


@require_POST
@login_required
def take_answer(request: SignedInRequest) -> HttpResponse:
    """Make a plan of one answer, or of all.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``number`` of the answer, or ``all``; and its ``layout`` where all were held
        against each other

    Returns
    -------
    HttpResponse
        To the plan; to the list of plans if all are taken
    """
    kept = kept_brief_of(request.user)
    if kept is None:
        return redirect("brief")
    form = BriefForm.of(kept.typed, units_for(request), own_containers_of(request.user))
    if form.brief is None:
        return redirect("brief")
    found = _answer_to(request, form.brief, form.is_any)
    if not found.is_done:
        return redirect("brief_answers")
    rows = _rows(found.result, request.POST.get("layout", ""))
    wanted = request.POST.get("number", "")
    if wanted != "all":
        rows = [row for n, row in enumerate(rows) if str(n) == wanted]
    if not rows:
        raise Http404
    plans = [_named(row) for row in rows] if len(rows) > 1 else [plan_from_data(rows[0]["plan"])]
    made = plans_of_brief(request.user, plans, kept.typed, kept.plan)
    return redirect("plan", made[0].key) if len(made) == 1 else redirect("plans")


def _rows(result: dict[str, Any], layout: str) -> list[dict[str, Any]]:
    if "layouts" in result:
        return [r["answer"] for r in result["layouts"] if r["layout"] == layout and r["answer"]]
    return list(result.get("answers", ()))


def _named(row: dict[str, Any]) -> Plan:
    """A plan with what it is best for in its name, beside the others."""
    words = ", ".join(AIMS[aim] for aim in row["aims"])
    return plan_from_data({**row["plan"], "name": f"{row['plan']['name']} ({words})"[:80]})
