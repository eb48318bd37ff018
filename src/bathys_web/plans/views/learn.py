"""Pages to learn from."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from bathys.wording.glossary import GLOSSARY

__all__ = ["glossary"]


@require_GET
def glossary(request: HttpRequest) -> HttpResponse:
    """What the terms mean; open to everybody.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    return render(request, "plans/glossary.html", {"terms": GLOSSARY})
