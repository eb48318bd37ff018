"""What every answer carries."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils.cache import patch_cache_control

__all__ = ["KeepNothing"]


class KeepNothing:
    """No cache, neither shared nor the browser's own, keeps a page that somebody signed in saw."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and say so."""
        response = self._get_response(request)
        if request.session.accessed or request.session.modified:
            patch_cache_control(response, private=True, no_store=True)
        return response
