"""The plan that the tour goes through."""

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_POST

from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.start_tour import start_tour as start

__all__ = ["start_tour"]


@require_POST
@login_required
def start_tour(request: SignedInRequest) -> HttpResponse:
    """Open a fresh practice plan, at the tour's first step.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The plan's page
    """
    return redirect(f"{reverse('plan', args=[start(request.user).key])}?tour=1")
