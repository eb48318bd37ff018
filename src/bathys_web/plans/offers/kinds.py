"""What every list of offers and every way to take one has."""

from collections.abc import Callable, Sequence
from typing import Any

from django.http import QueryDict

from bathys.parts.pumps import CatalogPump
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.actions.apply_change import Offered

__all__ = ["GONE", "List", "Own", "Take", "whole_number"]

GONE = "That offer no longer stands; here is the plan as it is."
Own = Sequence[CatalogPump]
List = Callable[[Assessment, QueryDict, System, Own], dict[str, Any]]
Take = Callable[[Plan, QueryDict, System, Own], Offered]


def whole_number(text: str | None) -> int:
    """A number typed or posted, -1 for anything else."""
    return int(text) if text and text.isdigit() and len(text) < 6 else -1
