"""What every list of offers and every way to take one has."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from django.http import QueryDict

from bathys.parts.pumps import CatalogPump
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.rehearsing import PATIENT

__all__ = ["GONE", "Desk", "List", "Take"]

GONE = "That offer no longer stands; here is the plan as it is."


@dataclass(frozen=True)
class Desk:
    """Who asks, and how long they wait.

    Attributes
    ----------
    key : str
        Key of the saved plan
    pumps : sequence of CatalogPump
        The visitor's own pumps
    patience : float
        How long an answer may take before it is asked for again, [s]
    """

    key: str
    pumps: Sequence[CatalogPump]
    patience: float = PATIENT


List = Callable[[Assessment, QueryDict, System, Desk], dict[str, Any]]
Take = Callable[[Plan, QueryDict, System, Desk], Offered]
