"""Pages for what goes wrong. None shows a traceback."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string

__all__ = ["not_found", "refused", "server_error", "stale_form"]


def _page(request: HttpRequest, status: int, title: str, sentence: str) -> HttpResponse:
    return render(request, "error.html", {"title": title, "sentence": sentence}, status=status)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """There is no such page, or it is somebody else's.

    Parameters
    ----------
    request : HttpRequest
        The request
    exception : Exception
        What went wrong

    Returns
    -------
    HttpResponse
        The page
    """
    return _page(
        request,
        404,
        "Nothing at this depth",
        "There is no such page here, or the plan belongs to another account.",
    )


def refused(request: HttpRequest, exception: Exception) -> HttpResponse:
    """The request made no sense or was not allowed.

    Parameters
    ----------
    request : HttpRequest
        The request
    exception : Exception
        What went wrong

    Returns
    -------
    HttpResponse
        The page
    """
    return _page(request, 400, "That was refused", "The page may be old: load it again and retry.")


def stale_form(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A form without its token: an old page, or one from elsewhere.

    Parameters
    ----------
    request : HttpRequest
        The request
    reason : str
        Why, for the log

    Returns
    -------
    HttpResponse
        The page
    """
    words = "This page is too old to act on, or you signed out in another window."
    return _page(request, 403, "That was refused", f"{words} Load it again and retry.")


def server_error(request: HttpRequest) -> HttpResponse:
    """Something broke; what was saved is safe. Drawn without the visitor, since what broke may be
    the database that knows them.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    words = {
        "title": "Something broke",
        "sentence": "Your plans are safe: every change before this is kept.",
    }
    return HttpResponse(render_to_string("error.html", words), status=500)
