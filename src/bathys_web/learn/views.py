"""Pages to learn from; all are open to everybody."""

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from bathys.rules import CAUTIONS
from bathys.wording.glossary import GLOSSARY
from bathys_web.learn.pages import HELP

__all__ = ["glossary", "help_page", "learn", "tour_steps"]


@require_GET
def learn(request: HttpRequest) -> HttpResponse:
    """The tour, the help pages and the glossary.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    return render(request, "learn/learn.html", {"help": HELP})


@require_GET
def glossary(request: HttpRequest) -> HttpResponse:
    """What the terms mean.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    return render(request, "learn/glossary.html", {"terms": GLOSSARY})


@require_GET
def help_page(request: HttpRequest, key: str) -> HttpResponse:
    """One help page.

    Parameters
    ----------
    request : HttpRequest
        The request
    key : str
        Its key

    Returns
    -------
    HttpResponse
        The page

    Raises
    ------
    Http404
        If there is none of that name
    """
    page = next((p for p in HELP if p.key == key), None)
    if page is None:
        raise Http404
    return render(request, page.template, {"page": page, "help": HELP, "cautions": CAUTIONS})


@require_GET
def tour_steps(request: HttpRequest) -> HttpResponse:
    """The steps of the tour, for the page that it goes through.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The steps
    """
    return render(request, "learn/_tour.html")
