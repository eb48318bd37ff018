"""A visitor's own demo account: started, kept, left."""

from allauth.account import views as account
from allauth.core.ratelimit import consume
from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login, logout
from django.contrib.auth.decorators import login_required
from django.contrib.auth.models import User
from django.contrib.auth.signals import user_logged_in
from django.dispatch import receiver
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from bathys_web.accounts.demo import is_demo
from bathys_web.accounts.forms import SignUpForm
from bathys_web.accounts.views import sign_up_quietly
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.delete_account import delete_account
from bathys_web.plans.actions.keep_demo import move_demo
from bathys_web.plans.actions.start_demo import start_demo as start

__all__ = ["keep_demo", "sign_out", "start_demo"]

_KEPT = "demo_to_keep"


@require_POST
def start_demo(request: HttpRequest) -> HttpResponse:
    """Sign in to a fresh demo account; 404 unless in demo mode.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The plans page; the page to sign in if too many were started from one address
    """
    if not settings.DEMO:
        raise Http404
    if request.user.is_authenticated:
        return redirect("plans")
    if not consume(request, action="demo"):
        messages.error(request, "Many demo accounts were started from here. Try again in an hour.")
        return redirect("account_login")
    login(request, start(), backend="django.contrib.auth.backends.ModelBackend")
    return redirect("plans")


@require_http_methods(["GET", "POST"])
@login_required
def keep_demo(request: SignedInRequest) -> HttpResponse:
    """Make an account of one's own from a demo account. Nothing that is answered tells whether
    the address has an account already: either way the visitor signs in with it, and that moves
    what was planned in the demo.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The form, or the page to sign in

    Raises
    ------
    Http404
        If it is no demo account
    """
    if not is_demo(request.user):
        raise Http404
    form = SignUpForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        demo = request.user.pk
        logout(request)
        sign_up_quietly(request, form)
        messages.info(request, "What you planned in the demo comes along when you sign in here.")
        request.session[_KEPT] = demo
        return redirect("account_login")
    status = 422 if form.errors else 200
    return render(request, "account/keep_demo.html", {"form": form}, status=status)


@receiver(user_logged_in)
def _move_kept_demo(sender: object, request: HttpRequest, user: User, **more: object) -> None:
    """Move what was to be kept, at the next sign-in of this browser."""
    demo = request.session.pop(_KEPT, None)
    if demo is None or is_demo(user):
        return
    moved = move_demo(demo, user)
    if moved:
        words = "plan is" if moved == 1 else "plans are"
        messages.success(request, f"{moved} {words} moved here from the demo account.")


def sign_out(request: HttpRequest) -> HttpResponse:
    """Sign out. A demo account is deleted, since nobody can sign in to it again.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The question, or the page to sign in
    """
    leaving = request.user if request.method == "POST" and is_demo(request.user) else None
    answer: HttpResponse = account.logout(request)
    if leaving is not None and isinstance(leaving, User):
        delete_account(User.objects.get(pk=leaving.pk))
    return answer
