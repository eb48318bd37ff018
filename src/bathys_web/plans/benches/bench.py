"""What a bench is: one concern of a plan at a time, with the picture that carries the reasoning."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.offer_context import OfferContext

__all__ = ["Bench", "BenchRequest"]


@dataclass(frozen=True)
class BenchRequest:
    """What a bench is asked.

    Attributes
    ----------
    saved : SavedPlan
        Whose plan
    found : Assessment
        The plan worked out
    asked : QueryDict
        What was chosen or typed
    units : str
        The system shown
    context : OfferContext
        Who asks
    """

    saved: SavedPlan
    found: Assessment
    asked: QueryDict
    units: System
    context: OfferContext

    @property
    def plan(self) -> Plan:
        """The plan."""
        return self.found.evaluation.plan


@dataclass(frozen=True)
class Bench:
    """A bench. Its template is ``plans/benches/<key>.html``.

    Attributes
    ----------
    key : str
        Its address
    title : str
        Its name on the row of benches
    asks : str
        The question it answers
    page : callable
        From what it is asked to what its template needs
    shows : callable
        Whether it has anything to say of a plan
    """

    key: str
    title: str
    asks: str
    page: Callable[[BenchRequest], dict[str, Any]]
    shows: Callable[[Plan], bool] = lambda plan: True
