"""What the visitor may do with all of their data: take it away, or have it deleted."""

import io

from django.contrib import messages
from django.contrib.auth import logout
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods

from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.delete_account import delete_account as delete
from bathys_web.plans.exporting import write_archive
from bathys_web.plans.models import SavedPlan

__all__ = ["delete_account", "own_data"]


@require_GET
@login_required
def own_data(request: SignedInRequest) -> HttpResponse:
    """All of the visitor's data in one archive.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        A ZIP file
    """
    file = io.BytesIO()
    write_archive(request.user, file)
    headers = {"Content-Disposition": 'attachment; filename="bathys-my-data.zip"'}
    return HttpResponse(file.getvalue(), content_type="application/zip", headers=headers)


@require_http_methods(["GET", "POST"])
@login_required
def delete_account(request: SignedInRequest) -> HttpResponse:
    """Ask for the password, then delete the account and all that is its own.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The question, or the page to sign in

    Raises
    ------
    Http404
        If the account has no password: a demo account is deleted by itself
    """
    user = request.user
    if not user.has_usable_password():
        raise Http404
    error = ""
    if request.method == "POST":
        if user.check_password(request.POST.get("password", "")):
            delete(user)
            logout(request)
            messages.success(request, "Your account and all your plans are deleted.")
            return redirect("account_login")
        error = "This is not your password. Nothing was deleted."
    context = {"error": error, "plans": SavedPlan.objects.filter(owner=user).count()}
    return render(request, "account/delete.html", context, status=422 if error else 200)
