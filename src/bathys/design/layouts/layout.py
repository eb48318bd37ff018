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
    wants_beds, wants_rafts, has_settler : bool
        What it is made of
    sumps : int
        So many of one kind share what goes up and down; 0 for none
    wants_side_tanks : bool
        Whether it has room for small tanks beside the others
    needs_plants : bool
        Whether something has to grow in it
    has_siphons : bool
        Whether its beds drain by siphons
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
    sumps: int
    has_settler: bool
    draw: Callable[[DesignBrief, Choice], Draft]
    wants_side_tanks: bool = False
    needs_plants: bool = True
    has_siphons: bool = True

    @property
    def has_sump(self) -> bool:
        """Whether drains end in a sump."""
        return self.sumps > 0
