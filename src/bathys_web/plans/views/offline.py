"""The log without signal: a page that a phone keeps, and what it sends once there is signal."""

import json
from datetime import UTC, datetime
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.contrib.staticfiles.storage import staticfiles_storage
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import render
from django.templatetags.static import static
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_POST

from bathys.fieldlog import ENTRY_KINDS
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.receive_entries import MOST_AT_ONCE, receive_entries
from bathys_web.plans.destinations import destinations
from bathys_web.plans.entry_form import entry_form
from bathys_web.plans.harm_ahead import harm_ahead
from bathys_web.plans.models import LogEntry
from bathys_web.plans.pages import units_for
from bathys_web.plans.run_page import run_context
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.views.own import own_plan

__all__ = ["offline_log", "offline_manifest", "offline_token", "send_entries", "service_worker"]

_WORKER = "bathys/service-worker.js"
_LONGEST_NAME, _SHORTEST_NAME = 40, 12  # letters under an icon


@require_GET
@login_required
def offline_log(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Every form of the log on one page, which needs no signal once a phone keeps it.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    entries = list(LogEntry.objects.filter(plan=saved))
    where_to, now = destinations(saved), timezone.now()
    harm = harm_ahead(saved, found, entries, now)
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "as_of": now,
        "jobs": run_context(found, entries, now, units, harm.until if harm else None)["jobs"],
        "forms": [
            entry_form(kind, found, units, {}, {}, where_to)
            for kind in ENTRY_KINDS.values()
            if kind.key != "job" and list(kind.parts(found))
        ],
    }
    return render(request, "plans/offline.html", context)


@require_GET
@login_required
def offline_token(request: SignedInRequest, key: UUID) -> JsonResponse:
    """What a page that a phone kept needs before it sends: days may lie between.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    JsonResponse
        ``token``, against forged requests
    """
    own_plan(request, key)
    return JsonResponse({"token": get_token(request)})


@require_POST
@login_required
def send_entries(request: SignedInRequest, key: UUID) -> JsonResponse:
    """Entries that waited on a device.

    Parameters
    ----------
    request : SignedInRequest
        JSON: ``entries``, as :class:`~bathys_web.plans.actions.receive_entries.WaitingEntry`, and
        the device's ``now`` since 1970 [s]
    key : UUID
        Key of the plan

    Returns
    -------
    JsonResponse
        ``received``, a row for each, and ``told`` on the device's clock; or what is ``wrong``
    """
    saved = own_plan(request, key)
    try:
        data = json.loads(request.body)
        rows, now = list(data["entries"]), datetime.fromtimestamp(float(data["now"]), UTC)
    except (ValueError, KeyError, TypeError, OverflowError, OSError, RecursionError):
        return JsonResponse({"wrong": "These entries cannot be read."}, status=422)
    if len(rows) > MOST_AT_ONCE:
        return JsonResponse({"wrong": f"At most {MOST_AT_ONCE} entries at once."}, status=422)
    found = assessment_of(saved.current).evaluation
    received, told = receive_entries(saved, request.user, rows, found, (timezone.now(), now))
    return JsonResponse(
        {
            "received": [
                {"key": r.key, "state": r.state, "errors": r.errors, "told": r.told}
                for r in received
            ],
            "told": told,
        }
    )


@require_GET
@login_required
def offline_manifest(request: SignedInRequest, key: UUID) -> JsonResponse:
    """What makes the page stand among a phone's applications.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    JsonResponse
        A web application manifest
    """
    saved = own_plan(request, key)
    address, name = reverse("offline_log", args=[saved.key]), plan_of(saved.current).name
    data = {
        "id": address,
        "name": f"Log of {name}"[:_LONGEST_NAME],
        "short_name": name[:_SHORTEST_NAME],
        "start_url": address,
        "scope": address,
        "display": "standalone",
        "icons": [
            {"src": static("bathys/mark.svg"), "type": "image/svg+xml", "sizes": "any"},
            {"src": static("bathys/mark-192.png"), "type": "image/png", "sizes": "192x192"},
            {"src": static("bathys/mark-512.png"), "type": "image/png", "sizes": "512x512"},
        ],
    }
    return JsonResponse(data, content_type="application/manifest+json")


@require_GET
def service_worker(request: HttpRequest) -> HttpResponse:
    """The script that answers for kept pages while there is no signal.

    It is served from the root, since a script answers for no address above its own.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        JavaScript
    """
    with staticfiles_storage.open(_WORKER) as file:
        script = file.read()
    headers = {"Cache-Control": "no-cache"}
    return HttpResponse(script, content_type="text/javascript; charset=utf-8", headers=headers)
