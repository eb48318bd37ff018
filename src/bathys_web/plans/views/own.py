"""The visitor's plan of an address, and who may see it."""

from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from bathys_web.plans.models import OwnPump, SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.offers.kinds import Desk
from bathys_web.plans.rehearsing import PATIENT

__all__ = ["address_of", "base_of", "desk_of", "own_plan", "patience_of"]


def own_plan(request: HttpRequest, key: UUID) -> SavedPlan:
    """The visitor's plan of this key; 404 if it is anybody else's."""
    plans = SavedPlan.objects.select_related("head").defer("head__document")
    return get_object_or_404(plans, key=key, owner=request.user)


def base_of(request: HttpRequest) -> int:
    return whole_number(request.POST.get("base"))


def address_of(saved: SavedPlan) -> str:
    return f"/plans/{saved.key}/"


def patience_of(request: HttpRequest) -> float:
    """How long a request waits for what takes long: a page's script asks again."""
    return settings.PATIENCE if request.htmx else PATIENT


def desk_of(request: HttpRequest, saved: SavedPlan) -> Desk:
    """What offers need to know of who asks."""
    pumps = tuple(p.as_catalog() for p in OwnPump.objects.filter(owner=request.user))
    return Desk(str(saved.key), pumps, patience_of(request))
