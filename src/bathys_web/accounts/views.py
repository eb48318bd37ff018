"""Signing up, passwords and e-mail addresses."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from allauth.account import views as account
from allauth.account.adapter import get_adapter
from allauth.account.models import EmailAddress
from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.contrib.auth.hashers import make_password
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse_lazy
from django.views.decorators.http import require_GET, require_http_methods

from bathys_web.accounts.forms import SignUpForm
from bathys_web.accounts.models import KeptEmail

__all__ = [
    "change_email",
    "change_password",
    "confirm_email",
    "email_on_its_way",
    "mailbox",
    "new_password",
    "new_password_done",
    "reset_password",
    "reset_password_done",
    "sign_up",
    "sign_up_quietly",
]

_View = Callable[..., HttpResponse]


def _with_mail(view: _View) -> _View:
    """The view where this server sends e-mail; elsewhere there is no such page."""

    @wraps(view)
    def answer(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        if not settings.SENDS_MAIL:
            raise Http404
        return view(request, *args, **kwargs)

    return require_http_methods(["GET", "POST"])(answer)


def _with_own_password(view: _View) -> _View:
    """The view for an account with a password; a demo account has none to change."""

    @wraps(view)
    def answer(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        if request.user.is_authenticated and not request.user.has_usable_password():
            raise Http404
        return view(request, *args, **kwargs)

    return login_required(answer)


class _ChangePassword(account.PasswordChangeView):
    """A new password for one's own account."""

    success_url = reverse_lazy("plans")


def sign_up_quietly(request: HttpRequest, form: SignUpForm) -> None:
    """Make an account, unless there is one of this address; tell the visitor the same either way.
    The address gets an e-mail that says which it was.

    Parameters
    ----------
    request : HttpRequest
        The request
    form : SignUpForm
        What was typed, found valid
    """
    if form.account_already_exists:
        make_password(form.cleaned_data["password1"])  # takes as long as making one
        if settings.SENDS_MAIL:
            get_adapter().send_account_already_exists_mail(form.cleaned_data["email"])
    else:
        user = form.save(request)
        send_confirmation(request, user)
    messages.success(
        request,
        "If there was no account of this address, there is one now: sign in. If there was, its "
        "old password holds.",
    )


def send_confirmation(request: HttpRequest, user: Any) -> None:
    """Send the e-mail that confirms an account's address, where this server sends any.

    Parameters
    ----------
    request : HttpRequest
        The request
    user : user
        Whose
    """
    if settings.SENDS_MAIL:
        address = EmailAddress.objects.get_primary(user)
        if address is not None:
            address.send_confirmation(request, signup=True)


class _SignUp(account.SignupView):
    """A new account. What is answered does not tell whether there was one of this address."""

    def form_valid(self, form: SignUpForm) -> HttpResponse:
        """Make the account, unless there is one; either way, to the page to sign in."""
        sign_up_quietly(self.request, form)
        return redirect("account_login")


sign_up = _SignUp.as_view()
change_password = _with_own_password(_ChangePassword.as_view())
change_email = _with_mail(_with_own_password(account.email))
confirm_email = _with_mail(account.confirm_email)
email_on_its_way = _with_mail(account.email_verification_sent)
reset_password = _with_mail(account.password_reset)
reset_password_done = _with_mail(account.password_reset_done)
new_password = _with_mail(account.password_reset_from_key)
new_password_done = _with_mail(account.password_reset_from_key_done)


@require_GET
def mailbox(request: HttpRequest) -> HttpResponse:
    """The local mailbox: what a mail server would have sent, newest first.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page

    Raises
    ------
    Http404
        If this server sends real e-mail, or none
    """
    if not settings.HAS_MAILBOX:
        raise Http404
    return render(request, "account/mailbox.html", {"emails": KeptEmail.objects.all()[:50]})
