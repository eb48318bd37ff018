"""The build sheet: a page, a PDF that the workers set, and files for other programs."""

from dataclasses import asdict
from typing import Any
from urllib.parse import urlencode
from uuid import UUID

from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.build import holes_of
from bathys.documents import (
    NothingPumped,
    StandingProblem,
    build_tables,
    changed_rows,
    ground_dxf,
    order_of_work,
    pumped_inp,
    routine_ics,
    table_csv,
    templates_dxf,
    templates_of,
    workbook,
)
from bathys.drawing.drilling import board_pictures, drilling_pictures
from bathys.engine import engine_name
from bathys.pipeline import Assessment
from bathys.routine import jobs_of
from bathys.units import System
from bathys_web.computing.asking import Answer
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.begin_building import begin_building, built_by, moved_since
from bathys_web.plans.actions.keep_prices import prices_of
from bathys_web.plans.actions.tick_step import steps_done
from bathys_web.plans.actions.tick_step import tick_step as tick
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.offers.stock_length import StockLength
from bathys_web.plans.pages import units_for
from bathys_web.plans.paper import PAPERS, Stamp, faults_of, sheet_context
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import address_of, offer_context_of, own_plan
from bathys_web.plans.views.papers import paper_state, pdf_file

__all__ = ["begin", "build", "build_file", "build_paper", "build_pdf", "tick_step"]

_TYPES = {
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "csv": "text/csv; charset=utf-8",
    "ground.dxf": "image/vnd.dxf",
    "templates.dxf": "image/vnd.dxf",
    "pumped.inp": "text/plain; charset=utf-8",
    "routine.ics": "text/calendar; charset=utf-8",
}


def _stamp(saved: SavedPlan, head: Revision, found: Assessment) -> Stamp:
    public = settings.PUBLIC_URL.rstrip("/")
    return Stamp(
        found.evaluation.plan.name,
        head.number,
        f"{head.created:%Y-%m-%d %H:%M}",
        head.content_hash[:12],
        engine_name()[:8],
        f"{public}{address_of(saved)}" if public else "",
    )


def _faults(head: Revision, found: Assessment, units: System) -> list[StandingProblem]:
    """Problems that stand, those with it that only time shows, so far as it was followed."""
    steady = sum(f.severity == "fault" for f in found.findings)
    return faults_of(found, units, plan_statuses_of([head])[0].fault - steady)


def _acknowledged(request: SignedInRequest, faults: list[StandingProblem]) -> list[str]:
    """Names of the problems that stand and are acknowledged."""
    named = set((request.GET or request.POST).getlist("ack"))
    return [f.name for f in faults if f.name in named]


def _query(stock: StockLength, acknowledged: list[str]) -> str:
    return urlencode({"stock": stock.typed, "ack": acknowledged}, doseq=True)


@require_GET
@login_required
def build(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The sheet as a page; while a problem stands that is not acknowledged, only that is shown.

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
    saved = own_plan(request, key)
    head = saved.current
    found = assessment_of(head)
    units = units_for(request, found.evaluation.plan)
    stock = StockLength.of(request.GET, units)
    faults = _faults(head, found, units)
    acknowledged = _acknowledged(request, faults)
    context: dict[str, Any] = {
        "saved": saved,
        "head": head,
        "plan": found.evaluation.plan,
        "units": units,
        "standing": plan_statuses_of([head])[0],
        "stock": stock,
        "faults": faults,
        "acknowledged": acknowledged,
        "unacknowledged": len(acknowledged) < len(faults),
        "papers": list(PAPERS),
        "query": _query(stock, acknowledged),
        "has_templates": _has_templates(found),
    }
    if not context["unacknowledged"]:
        stamp = _stamp(saved, head, found)
        prices = prices_of(request.user)
        done = steps_done(saved)
        context |= _since(request, saved, units, stock.metres)
        context |= sheet_context(found, units, stock.metres, prices, stamp, faults, done)
        holes = holes_of(found.evaluation)
        context["pictures"] = drilling_pictures(found.evaluation, units)
        context["boards"] = board_pictures(found.evaluation, units)
        context["open_holes"] = sum(not hole.is_chosen for hole in holes)
    return render(request, "plans/build.html", context)


def _since(
    request: SignedInRequest, saved: SavedPlan, units: System, stock: float
) -> dict[str, Any]:
    """By which revision it is built, and what has changed since of what is dug, drilled or cut."""
    begun = built_by(saved)
    if begun is None:
        return {"begun": None, "changed": (), "moved": ()}
    prices = prices_of(request.user)
    before, after = (
        build_tables(assessment_of(revision).evaluation, stock, prices, units)
        for revision in (begun.revision, saved.current)
    )
    changed = changed_rows(before, after, units)
    return {"begun": begun, "changed": changed, "moved": moved_since(begun)}


@require_POST
@login_required
def begin(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Building begins with the revision that stands, or has not begun after all.

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
    saved = own_plan(request, key)
    begin_building(saved, request.user, request.POST.get("begins") == "1")
    asked = request.POST.get("query", "")[:2000]
    return redirect(f"{reverse('build', args=[saved.key])}{'?' if asked else ''}{asked}")


@require_POST
@login_required
def tick_step(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Tick a step of the work, or take the tick off.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The step, or the page

    Raises
    ------
    Http404
        If the plan has no such step
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    steps = order_of_work(found, units_for(request, found.plan))
    step = next((s for s in steps if s.key == request.POST.get("step")), None)
    if step is None:
        raise Http404
    is_done = request.POST.get("done") == "1"
    tick(saved, request.user, step.key, is_done)
    if not request.htmx:
        return redirect("build", key=saved.key)
    context = {"saved": saved, "step": step, "is_done": is_done}
    return render(request, "plans/_build_step.html", context)


def _has_templates(found: Assessment) -> bool:
    """Whether there is anything to drill by a template: round a piece, or in a raft board."""
    plan = found.evaluation.plan
    return bool(templates_of(plan)) or any(v.use.has_rafts for v in plan.vessels)


def _may(request: SignedInRequest, faults: list[StandingProblem]) -> bool:
    """Whether a sheet may be made: no problem stands that is not acknowledged."""
    return len(_acknowledged(request, faults)) == len(faults)


@require_GET
@login_required
def build_file(request: SignedInRequest, key: UUID, kind: str) -> HttpResponse:
    """A file of the sheet: a workbook, a table as CSV, a drawing, the pumped runs.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    kind : str
        Which file

    Returns
    -------
    HttpResponse
        The file, or the page while a problem stands that is not acknowledged

    Raises
    ------
    Http404
        If there is no such file
    """
    if kind not in _TYPES:
        raise Http404
    saved = own_plan(request, key)
    found = assessment_of(saved.current)
    plan = found.evaluation.plan
    units = units_for(request, plan)
    faults = _faults(saved.current, found, units)
    if not _may(request, faults):
        return redirect("build", key=saved.key)
    name = f"{slugify(plan.name) or 'plan'}-r{saved.current.number}"
    if kind in ("xlsx", "csv"):
        stock = StockLength.of(request.GET, units).metres
        tables = build_tables(found.evaluation, stock, prices_of(request.user), units)
        if kind == "xlsx":
            words = _stamp(saved, saved.current, found).words
            return _file(workbook(tables, words, units, faults), kind, f"{name}-build.xlsx")
        table = next((t for t in tables if t.key == request.GET.get("table")), None)
        if table is None:
            raise Http404
        return _file(table_csv(table, units), kind, f"{name}-{table.key}.csv")
    if kind == "pumped.inp":
        try:
            return _file(pumped_inp(found.evaluation), kind, f"{name}-pumped.inp")
        except NothingPumped as nothing:
            raise Http404 from nothing
    if kind == "routine.ics":
        jobs = jobs_of(found.evaluation)
        dates = routine_ics(jobs, plan.name, str(saved.key), timezone.localdate(), units)
        return _file(dates, kind, f"{name}-{kind}")
    text = ground_dxf(plan) if kind == "ground.dxf" else templates_dxf(plan)
    return _file(text, kind, f"{name}-{kind}")


def _file(content: str | bytes, kind: str, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(content, content_type=_TYPES[kind], headers=headers)


@require_http_methods(["GET", "POST"])
@login_required
def build_paper(request: SignedInRequest, key: UUID, paper: str) -> HttpResponse:
    """How far the PDF is; posted, it is asked for.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    paper : str
        The paper

    Returns
    -------
    HttpResponse
        Its state, with a link once it is there
    """
    saved, found, answer = _paper(request, key, paper)
    if answer is None:
        return redirect("build", key=saved.key)
    return paper_state(request, saved, found.evaluation.plan, answer)


@require_GET
@login_required
def build_pdf(request: SignedInRequest, key: UUID, paper: str) -> HttpResponse:
    """The PDF.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    paper : str
        The paper

    Returns
    -------
    HttpResponse
        A PDF file, or where to ask for it
    """
    saved, found, answer = _paper(request, key, paper)
    if answer is None or not answer.is_done:
        return redirect("build", key=saved.key)
    name = slugify(found.evaluation.plan.name) or "plan"
    return pdf_file(answer.result, f"{name}-r{saved.current.number}-{paper}.pdf")


def _paper(
    request: SignedInRequest, key: UUID, paper: str
) -> tuple[SavedPlan, Assessment, Answer | None]:
    """What is known of a PDF; none while a problem stands that is not acknowledged."""
    if paper not in PAPERS:
        raise Http404
    saved = own_plan(request, key)
    found = assessment_of(saved.current)
    plan = found.evaluation.plan
    units = units_for(request, plan)
    faults = _faults(saved.current, found, units)
    if not _may(request, faults):
        return saved, found, None
    context = offer_context_of(request, saved)
    words = {
        "units": units,
        "stock": StockLength.of(request.GET, units).metres,
        "prices": context.prices.as_data,
        "stamp": _stamp(saved, saved.current, found).as_data,
        "paper": paper,
        "faults": [asdict(f) for f in faults],
    }
    return saved, found, context.computed("build_pdf", plan, words)
