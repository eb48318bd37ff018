"""What a bench is: one concern of a plan at a time, with the picture that carries the reasoning."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from django.http import QueryDict

from bathys.parts.pumps import CatalogPump
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.models import SavedPlan

__all__ = ["Ask", "Bench"]


@dataclass(frozen=True)
class Ask:
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
    own : sequence of CatalogPump
        The visitor's own pumps
    """

    saved: SavedPlan
    found: Assessment
    asked: QueryDict
    units: System
    own: Sequence[CatalogPump]

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
    page: Callable[[Ask], dict[str, Any]]
    shows: Callable[[Plan], bool] = lambda plan: True
