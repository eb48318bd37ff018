"""Signing in to the demo account, in demo mode only."""

from typing import Any

from allauth.account.views import PasswordChangeView, SignupView
from django.conf import settings
from django.contrib import messages
from django.contrib.auth import get_user_model, login
from django.contrib.auth.decorators import login_required
from django.contrib.auth.hashers import make_password
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse_lazy
from django.views.decorators.http import require_POST

from bathys_web.accounts.forms import SignUpForm

__all__ = ["DEMO_EMAIL", "change_password", "sign_in_to_demo", "sign_up"]

DEMO_EMAIL = "demo@bathys.example"


class _ChangePassword(PasswordChangeView):
    """A new password for one's own account."""

    success_url = reverse_lazy("shelf")

    def dispatch(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        """The demo account has no password, and so none to change."""
        if request.user.is_authenticated and not request.user.has_usable_password():
            raise Http404
        answer: HttpResponse = super().dispatch(request, *args, **kwargs)
        return answer


class _SignUp(SignupView):
    """A new account. What is answered does not tell whether there was one of this address."""

    def form_valid(self, form: SignUpForm) -> HttpResponse:
        """Make the account, unless there is one; either way, to the page to sign in."""
        if form.account_already_exists:
            make_password(form.cleaned_data["password1"])  # takes as long as making one
        else:
            form.save(self.request)
        messages.success(
            self.request,
            "If there was no account of this address, there is one now: sign in. If there was, its "
            "old password holds.",
        )
        return redirect("account_login")


sign_up = _SignUp.as_view()
change_password = login_required(_ChangePassword.as_view())


@require_POST
def sign_in_to_demo(request: HttpRequest) -> HttpResponse:
    """Sign in to the demo account; 404 unless in demo mode with its data loaded.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The plans page
    """
    user = get_user_model().objects.filter(email=DEMO_EMAIL).first() if settings.DEMO else None
    if user is None:
        raise Http404
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return redirect("shelf")
