"""What a bench is: one concern of a plan at a time, with the picture that carries the reasoning."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from django.http import QueryDict

from bathys.drawing.ribbons import ribbon_chart
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.quality.budget import Stream
from bathys.units import System
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.offer_context import OfferContext

__all__ = ["Bench", "BenchRequest", "ribbons_of"]


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
    choice : str
        Template of what is chosen or typed; empty for none. It is apart, since it stands there once
        where two plans are looked at beside each other
    """

    key: str
    title: str
    asks: str
    page: Callable[[BenchRequest], dict[str, Any]]
    shows: Callable[[Plan], bool] = lambda plan: True
    choice: str = ""


def ribbons_of(streams: Sequence[Stream]) -> dict[str, Any]:
    """A chart of streams as a template draws it; empty where nothing goes.

    Parameters
    ----------
    streams : sequence of Stream
        Of 100 g

    Returns
    -------
    dict of str to object
        Its size, its ribbons, its bars with their words, and the same in a sentence
    """
    if not streams:
        return {}
    chart = ribbon_chart([(s.start, s.end, s.grams) for s in streams])
    return {
        "width": chart.width,
        "height": chart.height,
        "ribbons": [{"path": r.path, "end": r.end.split()[0]} for r in chart.ribbons],
        "bars": [
            {
                "bar": bar,
                "words": f"{bar.name}, {bar.amount:.0f} g",
                "words_x": bar.x + (14.0 if bar.is_last or bar.x == 0.0 else -4.0),
                "words_y": bar.y + 0.5 * bar.tall + 4.0,
                "anchor": "start" if bar.is_last or bar.x == 0.0 else "end",
            }
            for bar in chart.bars
        ],
        "told": "; ".join(f"{s.start} to {s.end} {s.grams:.0f} g" for s in streams),
    }
