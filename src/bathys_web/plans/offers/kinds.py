"""What every list of offers and every way to take one has."""

from collections.abc import Callable
from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.offer_context import OfferContext

__all__ = ["List", "Take"]

List = Callable[[Assessment, QueryDict, System, OfferContext], dict[str, Any]]
Take = Callable[[Plan, QueryDict, System, OfferContext], Offered]
