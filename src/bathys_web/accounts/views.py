"""Signing in to the demo account, in demo mode only."""

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

__all__ = ["DEMO_EMAIL", "sign_in_to_demo"]

DEMO_EMAIL = "demo@bathys.example"


@require_POST
def sign_in_to_demo(request: HttpRequest) -> HttpResponse:
    """Sign in to the demo account; 404 unless in demo mode with its data loaded."""
    user = get_user_model().objects.filter(email=DEMO_EMAIL).first() if settings.DEMO else None
    if user is None:
        raise Http404
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return redirect("shelf")
