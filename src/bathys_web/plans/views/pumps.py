"""The builder's own pumps."""

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from bathys.units import show, unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_pump import BadPump, drop_pump, keep_pump
from bathys_web.plans.catalogue import catalogue
from bathys_web.plans.models import OwnPump
from bathys_web.plans.pages import units_for

__all__ = ["delete_own_pump", "own_pumps"]

_LABELS = {"name": "Name", "max_flow": "Label flow", "max_head": "Label lift", "power": "Power"}
_QUANTITIES = {"max_flow": "flow", "max_head": "head", "power": "power"}


@require_http_methods(["GET", "POST"])
@login_required
def own_pumps(request: SignedInRequest) -> HttpResponse:
    """List them, and take a new one.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    units = units_for(request)
    errors: dict[str, str] = {}
    if request.method == "POST":
        try:
            keep_pump(request.user, {k: request.POST.get(k, "") for k in _LABELS}, units)
            return redirect("own_pumps")
        except BadPump as bad:
            errors = bad.errors
    fields = [
        {
            "name": name,
            "label": label,
            "typed": request.POST.get(name, ""),
            "error": errors.get(name, ""),
            "unit": unit_of(_QUANTITIES[name], units) if name in _QUANTITIES else "",
        }
        for name, label in _LABELS.items()
    ]
    rows = [
        {"pump": p, **{f: show(getattr(p, f), q, units) for f, q in _QUANTITIES.items()}}
        for p in OwnPump.objects.filter(owner=request.user)
    ]
    context = {"rows": rows, "fields": fields, "units": units, **catalogue(units)}
    return render(request, "plans/parts.html", context, status=422 if errors else 200)


@require_POST
@login_required
def delete_own_pump(request: SignedInRequest, pk: int) -> HttpResponse:
    """Drop one.

    Parameters
    ----------
    request : SignedInRequest
        The request
    pk : int
        Key of the pump

    Returns
    -------
    HttpResponse
        The page of pumps
    """
    drop_pump(get_object_or_404(OwnPump, pk=pk, owner=request.user), request.user)
    return redirect("own_pumps")
