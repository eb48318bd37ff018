"""What every answer carries."""

import threading
from collections import Counter
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string
from django.utils.cache import patch_cache_control

__all__ = ["FairShare", "KeepNothing"]

_MOST_AT_ONCE = 8


class FairShare:
    """One visitor holds a few threads of a web process at most: the rest are for the others.

    A browser opens six connections to a site, so that nobody who looks at pages is ever refused.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response
        self._held: Counter[str] = Counter()
        self._lock = threading.Lock()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, unless this visitor holds too many threads already."""
        who = request.COOKIES.get(settings.SESSION_COOKIE_NAME) or request.META["REMOTE_ADDR"]
        with self._lock:
            is_too_many = self._held[who] >= _MOST_AT_ONCE
            self._held[who] += not is_too_many
        if is_too_many:
            return HttpResponse(
                render_to_string("429.html"), status=429, headers={"Retry-After": 1}
            )
        try:
            return self._get_response(request)
        finally:
            with self._lock:
                self._held[who] -= 1
                if not self._held[who]:
                    del self._held[who]


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
