"""The visitor's plan of an address, and who may see it."""

from collections.abc import Callable
from uuid import UUID

from django.http import QueryDict
from django.shortcuts import get_object_or_404

from bathys.edits import EditRefused
from bathys.plan import Plan
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.add_revision import StaleEdit, add_revision
from bathys_web.plans.actions.keep_container import own_containers_of
from bathys_web.plans.actions.keep_own_part import own_parts_of
from bathys_web.plans.actions.keep_prices import prices_of
from bathys_web.plans.models import OwnPump, Revision, SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.offer_context import OfferContext

__all__ = [
    "CHANGED_ELSEWHERE",
    "address_of",
    "asked_of",
    "base_of",
    "offer_context_of",
    "own_plan",
    "refusal_of",
]

CHANGED_ELSEWHERE = "The plan has changed elsewhere meanwhile. This is how it stands now."


def own_plan(request: SignedInRequest, key: UUID) -> SavedPlan:
    """The visitor's plan of this key; 404 if it is anybody else's.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    SavedPlan
        The plan as stored
    """
    plans = SavedPlan.objects.select_related("head").defer("head__document")
    saved = get_object_or_404(plans, key=key, owner=request.user)
    saved.current.plan = saved  # known already, and asked for again
    return saved


def base_of(request: SignedInRequest) -> int:
    """The revision that a posted edit was made on.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    int
        Its number, -1 for none
    """
    return whole_number(request.POST.get("base"))


def asked_of(request: SignedInRequest) -> QueryDict:
    """What was asked: in the address, or in a form that says all of it.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    QueryDict
        What was asked
    """
    asked = request.GET.copy()
    posted = request.POST.copy()
    for field in ("csrfmiddlewaretoken", "tint"):  # of the page, not of what is asked
        posted.pop(field, None)
    for field in posted:
        asked.setlist(field, posted.getlist(field))
    return asked


def address_of(saved: SavedPlan) -> str:
    """Where a plan's page is.

    Parameters
    ----------
    saved : SavedPlan
        The plan as stored

    Returns
    -------
    str
        The address
    """
    return f"/plans/{saved.key}/"


def offer_context_of(request: SignedInRequest, saved: SavedPlan) -> OfferContext:
    """What offers need to know of who asks.

    Parameters
    ----------
    request : SignedInRequest
        The request
    saved : SavedPlan
        The plan as stored

    Returns
    -------
    OfferContext
        What they need to know
    """
    pumps = tuple(p.as_catalog() for p in OwnPump.objects.filter(owner=request.user))
    asks = request.user if request.method == "POST" else None
    containers, parts = own_containers_of(request.user), own_parts_of(request.user)
    prices = prices_of(request.user)
    return OfferContext(str(saved.key), pumps, asks, prices, containers, parts, saved.locked)


def refusal_of(
    request: SignedInRequest, saved: SavedPlan, edit: Callable[[Plan], tuple[Plan, str]]
) -> tuple[Revision, str, int] | None:
    """Make an edit as a new revision, for a page of its own.

    Parameters
    ----------
    request : SignedInRequest
        The request, with the revision that was looked at
    saved : SavedPlan
        The plan
    edit : callable
        From the plan to the plan after, and what is said of it

    Returns
    -------
    (Revision, str, int) or None
        The revision that stands, why the edit is not made, and the status to answer with; none
        where it is made
    """
    try:
        add_revision(saved, request.user, base_of(request), edit)
    except EditRefused as refused:
        return saved.current, str(refused), 422
    except StaleEdit as stale:
        return stale.newest, CHANGED_ELSEWHERE, 409
    return None
