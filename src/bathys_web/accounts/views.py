"""Signing in to the demo account, in demo mode only."""

from typing import Any

from allauth.account.views import PasswordChangeView
from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse_lazy
from django.views.decorators.http import require_POST

__all__ = ["DEMO_EMAIL", "change_password", "sign_in_to_demo"]

DEMO_EMAIL = "demo@bathys.example"


class _ChangePassword(PasswordChangeView):
    """A new password for one's own account."""

    success_url = reverse_lazy("shelf")

    def dispatch(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        """The demo account has no password, and so none to change."""
        if request.user.is_authenticated and not request.user.has_usable_password():
            raise Http404
        return super().dispatch(request, *args, **kwargs)


change_password = login_required(_ChangePassword.as_view())


@require_POST
def sign_in_to_demo(request: HttpRequest) -> HttpResponse:
    """Sign in to the demo account; 404 unless in demo mode with its data loaded."""
    user = get_user_model().objects.filter(email=DEMO_EMAIL).first() if settings.DEMO else None
    if user is None:
        raise Http404
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return redirect("shelf")
