"""Pages for what goes wrong. None shows a traceback."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

__all__ = ["not_found", "refused", "server_error"]


def _page(request: HttpRequest, status: int, title: str, sentence: str) -> HttpResponse:
    return render(request, "error.html", {"title": title, "sentence": sentence}, status=status)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """There is no such page, or it is somebody else's."""
    return _page(
        request, 404, "Nothing at this depth",
        "There is no such page here, or the plan belongs to another account.",
    )  # fmt: skip


def refused(request: HttpRequest, exception: Exception) -> HttpResponse:
    """The request made no sense or was not allowed."""
    return _page(request, 400, "That was refused", "The page may be old: load it again and retry.")


def server_error(request: HttpRequest) -> HttpResponse:
    """Something broke; what was saved is safe."""
    return _page(
        request, 500, "Something broke", "Your plans are safe: every change before this is kept."
    )
