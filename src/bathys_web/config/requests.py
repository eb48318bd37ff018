"""What views are asked, as the middleware leaves it."""

from django.contrib.auth.models import User
from django.http import HttpRequest
from django_htmx.middleware import HtmxDetails

__all__ = ["SignedInRequest"]


class SignedInRequest(HttpRequest):
    """The request of a view that only somebody signed in gets to (``login_required``). It is never
    made: types alone go by it."""

    user: User
    htmx: HtmxDetails
