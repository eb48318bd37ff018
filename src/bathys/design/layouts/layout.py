"""What every layout says of itself."""

from collections.abc import Callable
from dataclasses import dataclass

from bathys.design.brief import DesignBrief
from bathys.design.draft import Draft
from bathys.design.parts import Choice

__all__ = ["Layout"]


@dataclass(frozen=True, slots=True)
class Layout:
    """A layout that can be sized.

    Attributes
    ----------
    key, name : str
        Its name in a brief, and for people
    water : str
        How the water goes round
    suits, costs : str
        For whom it is, and what speaks against it
    wants_beds, wants_rafts, has_sump, has_settler : bool
        What it is made of
    draw : callable
        From brief and choice to a draft; raises :class:`~bathys.design.DesignRefused` where a wish
        is in the way
    """

    key: str
    name: str
    water: str
    suits: str
    costs: str
    wants_beds: bool
    wants_rafts: bool
    has_sump: bool
    has_settler: bool
    draw: Callable[[DesignBrief, Choice], Draft]
