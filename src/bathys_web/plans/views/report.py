"""The report of a season: as page, spreadsheet and PDF."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods

from bathys.documents import season_tables, workbook
from bathys.evaluation import Evaluation
from bathys_web.computing.asking import Answer
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.paper import PAPERS
from bathys_web.plans.season_report import dated_entries, report_tables, report_words
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import offer_context_of, own_plan
from bathys_web.plans.views.papers import paper_state, pdf_file

__all__ = ["report", "report_paper", "report_pdf", "report_xlsx"]

_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _entries(saved: SavedPlan) -> list[LogEntry]:
    return list(LogEntry.objects.filter(plan=saved))


@require_GET
@login_required
def report(request: SignedInRequest, key: UUID) -> HttpResponse:
    """What a season came to, table by table.

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
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    rows = dated_entries(_entries(saved), timezone.now())
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "tables": report_tables(found, rows, units),
        "first": rows[0].on if rows else "",
        "papers": list(PAPERS),
    }
    return render(request, "plans/report.html", context)


@require_GET
@login_required
def report_xlsx(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The same as a spreadsheet.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        A workbook
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    tables = season_tables(found, dated_entries(_entries(saved), timezone.now()))
    if not tables:
        raise Http404
    content = workbook(tables, f"{found.plan.name}: season", units)
    headers = {"Content-Disposition": f'attachment; filename="{_name(found)}-season.xlsx"'}
    return HttpResponse(content, content_type=_XLSX, headers=headers)


def _name(found: Evaluation) -> str:
    return slugify(found.plan.name) or "plan"


@require_http_methods(["GET", "POST"])
@login_required
def report_paper(request: SignedInRequest, key: UUID, paper: str) -> HttpResponse:
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
    return paper_state(request, saved, found.plan, answer)


@require_GET
@login_required
def report_pdf(request: SignedInRequest, key: UUID, paper: str) -> HttpResponse:
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
    if not answer.is_done:
        return redirect("season_report", key=saved.key)
    return pdf_file(answer.result, f"{_name(found)}-season-{paper}.pdf")


def _paper(request: SignedInRequest, key: UUID, paper: str) -> tuple[SavedPlan, Evaluation, Answer]:
    if paper not in PAPERS:
        raise Http404
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    words = report_words(_entries(saved), timezone.now(), units, paper)
    return saved, found, offer_context_of(request, saved).computed("season_pdf", found.plan, words)
