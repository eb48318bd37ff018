"""What every answer carries."""

import threading
from collections import Counter
from collections.abc import Callable
from urllib.parse import unquote
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string
from django.utils import timezone
from django.utils.cache import patch_cache_control

__all__ = ["FairShare", "KeepNothing", "OwnTime"]

_MOST_HELD, _MOST_AT_ONCE = 12, 3
_PATIENCE = 30.0  # for one of one’s own requests to end [s]


class FairShare:
    """One visitor has a few threads of a web process at work at most: the rest are for the others.

    More requests of theirs wait for their own; a browser opens six connections to a site, so that
    nobody who looks at pages is ever refused.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response
        self._held: Counter[str] = Counter()
        self._at_work: Counter[str] = Counter()
        self._changed = threading.Condition()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, unless this visitor holds too many threads already."""
        who = request.COOKIES.get(settings.SESSION_COOKIE_NAME) or request.META["REMOTE_ADDR"]
        if not self._begin(who):
            page = render_to_string("429.html")
            return HttpResponse(page, status=429, headers={"Retry-After": "1"})
        try:
            return self._get_response(request)
        finally:
            with self._changed:
                self._at_work[who] -= 1
                self._let_go(who)
                self._changed.notify_all()

    def _begin(self, who: str) -> bool:
        """Wait for a turn; whether it came."""
        with self._changed:
            if self._held[who] >= _MOST_HELD:
                return False
            self._held[who] += 1
            is_free = self._changed.wait_for(
                lambda: self._at_work[who] < _MOST_AT_ONCE, timeout=_PATIENCE
            )
            if is_free:
                self._at_work[who] += 1
            else:
                self._let_go(who)
            return is_free

    def _let_go(self, who: str) -> None:
        self._held[who] -= 1
        if not self._held[who]:
            del self._held[who], self._at_work[who]


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


class OwnTime:
    """Times are read and shown in the zone that the browser tells; in UTC until it has."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer in that zone."""
        try:
            zone = ZoneInfo(unquote(request.COOKIES.get("zone", "")) or "UTC")
        except (ZoneInfoNotFoundError, ValueError, OSError):
            return self._get_response(request)
        with timezone.override(zone):
            return self._get_response(request)
