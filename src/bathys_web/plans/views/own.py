"""The visitor's plan of an address, and who may see it."""

from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from bathys.parts.pumps import CatalogPump
from bathys_web.plans.models import OwnPump, SavedPlan

__all__ = ["address_of", "base_of", "own_plan", "own_pumps"]


def own_plan(request: HttpRequest, key: UUID) -> SavedPlan:
    """The visitor's plan of this key; 404 if it is anybody else's."""
    plans = SavedPlan.objects.select_related("head").defer("head__document")
    return get_object_or_404(plans, key=key, owner=request.user)


def base_of(request: HttpRequest) -> int:
    text = request.POST.get("base", "")
    return int(text) if text.isdigit() and len(text) < 9 else 0


def address_of(saved: SavedPlan) -> str:
    return f"/plans/{saved.key}/"


def own_pumps(request: HttpRequest) -> tuple[CatalogPump, ...]:
    return tuple(p.as_catalog() for p in OwnPump.objects.filter(owner=request.user))
