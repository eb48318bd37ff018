"""Who asks for what takes long, and from which page."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from django.contrib.auth.models import User

from bathys.parts.containers import Container
from bathys.parts.pumps import CatalogPump
from bathys.plan import Plan, document_hash
from bathys.shelf import PriceList, ShelfPart
from bathys_web.computing.asking import Answer, answer_to, ask_and_wait

__all__ = ["OfferContext"]


@dataclass(frozen=True)
class OfferContext:
    """Who asks.

    Attributes
    ----------
    key : str
        Key of the saved plan
    pumps : sequence of CatalogPump
        The visitor's own pumps
    asks : user or None
        The visitor, where the request may ask for computations; none where it only looks
    prices : PriceList
        The visitor's own prices
    containers : sequence of Container
        The visitor's own containers
    own_parts : sequence of ShelfPart
        What else is the visitor's own
    locked : sequence of str
        Ids of parts whose size is to stay
    """

    key: str
    pumps: Sequence[CatalogPump] = ()
    asks: User | None = None
    prices: PriceList = field(default_factory=PriceList.empty)
    containers: Sequence[Container] = ()
    own_parts: Sequence[ShelfPart] = ()
    locked: Sequence[str] = ()

    def computed(self, kind: str, plan: Plan, words: Mapping[str, Any] | None = None) -> Answer:
        """What is known of a computation; asked for, and waited for a moment, if this may ask.

        Parameters
        ----------
        kind : str
            Name of the kind
        plan : Plan
            The plan
        words : mapping, optional
            What else is asked, as plain data

        Returns
        -------
        Answer
            Its state and result
        """
        content, words = document_hash(plan), words or {}
        if self.asks is None:
            return answer_to(kind, content, words)
        return ask_and_wait(kind, content, plan, words, self.asks, self.key)
