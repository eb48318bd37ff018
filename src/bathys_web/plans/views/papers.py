"""A PDF that the queue makes: how far it is, and the file."""

from django.http import HttpResponse
from django.shortcuts import redirect, render

from bathys.plan import Plan
from bathys_web.computing.asking import Answer
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.models import SavedPlan

__all__ = ["paper_state", "pdf_file"]


def paper_state(
    request: SignedInRequest, saved: SavedPlan, plan: Plan, answer: Answer
) -> HttpResponse:
    """How far a PDF is; where it was asked for without script, to the page that says so.

    Parameters
    ----------
    request : SignedInRequest
        The request; its file stands under its address
    saved : SavedPlan
        The plan as stored
    plan : Plan
        The plan
    answer : Answer
        What is known of the PDF

    Returns
    -------
    HttpResponse
        Its state, with a link once it is there
    """
    query = f"?{request.GET.urlencode()}" if request.GET else ""
    here = f"{request.path}{query}"
    if not request.htmx and request.method == "POST":
        return redirect(here)
    context = {
        "answer": answer,
        "saved": saved,
        "plan": plan,
        "here": here,
        "file": f"{request.path}file/{query}",
        "template": "plans/_paper.html",
        "in_page": bool(request.htmx),
    }
    template = "plans/_paper.html" if request.htmx else "plans/offers/page.html"
    return render(request, template, context)


def pdf_file(content: bytes, name: str) -> HttpResponse:
    """A PDF to be downloaded.

    Parameters
    ----------
    content : bytes
        The file
    name : str
        Its name

    Returns
    -------
    HttpResponse
        The file
    """
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(content, content_type="application/pdf", headers=headers)
